import '@expo/metro-runtime';
import { registerRootComponent } from 'expo';
import { App } from 'expo-router/build/qualified-entry';
import { BEGUN } from './server-render/unloaded';

// As `expo-router/entry` does, but at once and not as a transition: a transition is drawn in slices of five
// milliseconds, which takes longer, and until the first drawing is there nothing answers that could be held
// up by it.
registerRootComponent(App);
document.documentElement.setAttribute(BEGUN, '');
