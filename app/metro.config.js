const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const config = getDefaultConfig(__dirname);
const resolve = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) => {
  // zod carries every language it can speak; its English is compiled in, the rest (41 KB gz) is not needed.
  if (/zod\/.*locales\/index|^\.\.\/locales\/index/.test(name) && /[\\/]zod[\\/]/.test(context.originModulePath)) return { type: 'empty' };
  return (resolve ?? context.resolveRequest)(context, name, platform);
};

module.exports = withNativeWind(config, { input: './global.css' });
