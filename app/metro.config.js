const { join } = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const config = getDefaultConfig(__dirname);

/**
 * What is not loaded although somebody asks for it, since nothing in this app ever gets to it, by its path in
 * node_modules: a third of what would be there at first. Each is empty, so whoever does get to it meets
 * `undefined` in the first browser test.
 */
const LEFT_OUT = [
  // Zod carries every language it can speak; its English is compiled in.
  /^zod\/.*\/locales\/index\./,
  // The router's own tabs, stacks, headers, previews and pages: all of ours are drawn in a `Slot`.
  /^expo-router\/build\/(react-navigation\/(bottom-tabs|elements|native-stack)|layouts\/stack-utils|native-tabs|standard-navigation|color|loaders)\//,
  /^expo-router\/build\/layouts\/(BaseStack|Stack\.web|Tabs|TabsClient|_web-modal|experimental-stack)/,
  /^expo-router\/build\/link\/(LinkWithPreview|preview\/(HrefPreview|native))/,
  /^expo-router\/build\/views\/(ErrorBoundary|Sitemap|Toast|Unmatched|useSitemap)\./,
  // What it has twice: a fork of its own, and what that was made from.
  /^expo-router\/build\/react-navigation\/core\/(StaticNavigation|getStateFromPath|getPathFromState|getPatternParts)\./,
  /^expo-router\/build\/react-navigation\/native\/(Link|NavigationContainer|ServerContainer|create\w+|use(DocumentTitle|Link\w+|Locale|RoutePath|ScrollToTop|Thenable|BackButton))\./,
  /^expo-router\/build\/react-navigation\/routers\/(DrawerRouter|TabRouter)\./,
  // Drawings are components here, none is read from text, pressed or turned.
  /^react-native-svg\/lib\/module\/(deprecated|xml|xmlTags|utils\/fetchData|lib\/(Matrix2D|SvgTouchableMixin|resolveAssetUri|extract\/(transform|transformToRn|extractTransform)))\./,
  // Queries without end, in streams, or brought along by another server.
  /^@tanstack\/query-core\/build\/modern\/(hydration|infiniteQuery\w+|streamedQuery)\./,
  /^@tanstack\/react-query\/build\/modern\/(HydrationBoundary|\w*[iI]nfinite\w*|use(Suspense|Prefetch)\w+)\./,
];

/** What is loaded in the place of something larger; each file in `shims/` says why. */
const SHIMS = new Map([
  ['react-native-web/dist/index.js', 'react-native.js'],
  ['react-native-css-interop/dist/runtime/components.js', 'styled.js'],
  ['expo-router/build/head/index.js', 'head.js'],
  ['expo-router/build/fork/native-stack/createNativeStackNavigator.js', 'stack.js'],
  ['expo-router/build/native-tabs/NativeTabTrigger.js', 'native-tabs.js'],
  ['expo-router/build/screensFeatureFlags.js', 'screens-flags.js'],
  ['expo-modules-core/src/uuid/index.web.ts', 'uuid.js'],
]);

const resolve = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) => {
  const found = (resolve ?? context.resolveRequest)(context, name, platform);
  const path = found.type === 'sourceFile' ? found.filePath.split('/node_modules/').at(-1) : '';
  if (LEFT_OUT.some((out) => out.test(path))) return { type: 'empty' };
  const instead = SHIMS.get(path);
  return instead ? { type: 'sourceFile', filePath: join(__dirname, 'shims', instead) } : found;
};

// A module is run when something of it is used for the first time, not when whoever may use it is run.
config.transformer.getTransformOptions = async () => ({
  transform: { experimentalImportSupport: true, inlineRequires: true },
});

module.exports = withNativeWind(config, { input: './global.css' });
