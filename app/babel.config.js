module.exports = (api) => {
  api.cache(true);
  return {
    presets: [['babel-preset-expo', { jsxImportSource: 'nativewind' }], 'nativewind/babel'],
    // Jest runs CommonJS, where what is loaded when it is needed is required then.
    env: { test: { plugins: ['@babel/plugin-transform-dynamic-import'] } },
  };
};
