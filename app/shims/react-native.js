// What the router and the styling ask of react-native as a whole. Our own code imports each part by itself
// (Babel sees to that); the whole has lists, touchables and animations in it that nothing here uses, 150 KB
// of them.
export { default as AppState } from 'react-native-web/dist/exports/AppState';
export { default as Appearance } from 'react-native-web/dist/exports/Appearance';
export { default as I18nManager } from 'react-native-web/dist/exports/I18nManager';
export { default as Platform } from 'react-native-web/dist/exports/Platform';
export { default as StyleSheet } from 'react-native-web/dist/exports/StyleSheet';
export { default as Text } from 'react-native-web/dist/exports/Text';
export { default as View } from 'react-native-web/dist/exports/View';
export { default as useColorScheme } from 'react-native-web/dist/exports/useColorScheme';
