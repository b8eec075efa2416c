// The components that understand `className`: the ones this app draws with. (The package's own list has all
// of React Native's in it, and loads them.)
import { cssInterop } from 'react-native-css-interop/dist/runtime/api';
import { ActivityIndicator, Pressable, ScrollView, Text, View } from 'react-native';

for (const component of [Pressable, Text, View]) cssInterop(component, { className: 'style' });
cssInterop(ActivityIndicator, { className: { target: 'style', nativeStyleToProp: { color: true } } });
cssInterop(ScrollView, { className: 'style', contentContainerClassName: 'contentContainerStyle' });
