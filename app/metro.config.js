const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const { handOn } = require('./hand-on');
const { shimsFor, stubsFor } = require('./left-out');

const config = getDefaultConfig(__dirname);

/**
 * What is not loaded although somebody asks for it, since nothing in this app ever gets to it: a third of what
 * would be there at first, which Expo's own tree shaking leaves in (it takes 1 % away, these take 34 %).
 */
const STUBS = stubsFor({
  // Zod carries every language it can speak; its English is compiled in.
  zod: [/\/locales\/index\./],
  'expo-router': [
    // The router's own tabs, stacks, headers, previews and pages: all of ours are drawn in a `Slot`.
    /^build\/react-navigation\/(bottom-tabs|elements|native-stack)\//,
    /^build\/(layouts\/stack-utils|native-tabs|standard-navigation|color|loaders)\//,
    /^build\/layouts\/(BaseStack|Stack\.web|Tabs|TabsClient|_web-modal|experimental-stack)/,
    /^build\/link\/(LinkWithPreview|preview\/(HrefPreview|native))/,
    /^build\/views\/(ErrorBoundary|Sitemap|Toast|Unmatched|useSitemap)\./,
    // What it has twice: a fork of its own, and what that was made from.
    /^build\/react-navigation\/core\/(StaticNavigation|getStateFromPath|getPathFromState|getPatternParts)\./,
    /^build\/react-navigation\/native\/(Link|NavigationContainer|ServerContainer|create\w+)\./,
    /^build\/react-navigation\/native\/use(DocumentTitle|Link\w+|Locale|RoutePath|ScrollToTop)\./,
    /^build\/react-navigation\/native\/use(Thenable|BackButton)\./,
    /^build\/react-navigation\/routers\/(DrawerRouter|TabRouter)\./,
  ],
  // Drawings are components here, none is read from text, pressed or turned.
  'react-native-svg': [
    /^lib\/module\/(deprecated|xml|xmlTags|utils\/fetchData)\./,
    /^lib\/module\/lib\/(Matrix2D|SvgTouchableMixin|resolveAssetUri)\./,
    /^lib\/module\/lib\/extract\/(transform|transformToRn|extractTransform)\./,
  ],
  // Of the charts one is drawn; the others bring lists and animations along.
  'react-native-chart-kit': [/^dist\/charts\/(bar|contribution-graph|line|pie|progress)\//],
  // Queries without end, in streams, or brought along by another server.
  '@tanstack/query-core': [/^build\/modern\/(hydration|infiniteQuery\w+|streamedQuery)\./],
  '@tanstack/react-query': [
    /^build\/modern\/(HydrationBoundary|\w*[iI]nfinite\w*|use(Suspense|Prefetch)\w+)\./,
    // How many requests are under way.
    /^build\/modern\/use(MutationState|IsFetching)\./,
  ],
  // What of the machine is only there in an app of a shop.
  'expo-modules-core': [/^src\/(hooks\/useReleasingSharedObject\w*|PermissionsHook)\./],
  expo: [/^src\/hooks\/useEvent\./, /^src\/dom\/(webview-bridge|dom-hooks)\./],
});

/** What is loaded in the place of something larger; each file in `shims/` says why. */
const SHIMS = shimsFor({
  'react-native-web/dist/index.js': 'react-native.js',
  'react-native-css-interop/dist/runtime/components.js': 'styled.js',
  'expo-router/build/head/index.js': 'head.js',
  'expo-router/build/fork/native-stack/createNativeStackNavigator.js': 'stack.js',
  'expo-router/build/native-tabs/NativeTabTrigger.js': 'native-tabs.js',
  'expo-router/build/screensFeatureFlags.js': 'screens-flags.js',
  'expo-modules-core/src/uuid/index.web.ts': 'uuid.js',
});

const resolve = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) => {
  const found = (resolve ?? context.resolveRequest)(context, name, platform);
  const path = found.type === 'sourceFile' ? found.filePath.split('/node_modules/').at(-1) : '';
  const filePath = SHIMS.get(path) ?? STUBS.get(path);
  return filePath ? { type: 'sourceFile', filePath } : found;
};

// In front of the API while it is being worked on (`npm run dev`).
if (process.env.ZEPHYRFIELD_API) config.server.enhanceMiddleware = handOn(process.env.ZEPHYRFIELD_API);

// A module is run when something of it is used for the first time, not when whoever may use it is run.
config.transformer.getTransformOptions = async () => ({
  transform: { experimentalImportSupport: true, inlineRequires: true },
});

module.exports = withNativeWind(config, { input: './global.css' });
