/** Core, server, stand-ins and demo through swc; the app through Expo's web preset. */
const swc = [
  '@swc/jest',
  {
    jsc: { target: 'es2022', parser: { syntax: 'typescript' } },
    module: { type: 'commonjs' },
    sourceMaps: 'inline',
  },
];
const chrono = {
  '^chrono-node/en$': new URL('node_modules/chrono-node/dist/cjs/locales/en/index.js', import.meta.url)
    .pathname,
};
const node = (name) => ({
  displayName: name,
  rootDir: new URL(name, import.meta.url).pathname,
  testEnvironment: 'node',
  testMatch: ['<rootDir>/{src,test}/**/*.test.ts'],
  // Jest does not follow the pattern this package exports its languages by.
  moduleNameMapper: {
    ...chrono,
    '^file-type$': new URL('node_modules/file-type/index.js', import.meta.url).pathname,
  },
  // Several packages ship as ECMAScript modules only, which Jest runs after turning them into CommonJS.
  transform: { '\\.m?[jt]s$': swc },
  transformIgnorePatterns: [],
});

export default {
  // Only so that what hangs ends: a machine may be slow, or busy.
  testTimeout: 300_000,
  // Nothing else goes on beside them: on two cores half of the machine would stand idle.
  maxWorkers: '100%',
  projects: [
    node('core'),
    { ...node('server'), globalSetup: '<rootDir>/test/build-worker.mjs' },
    node('stand-ins'),
    node('demo'),
    {
      displayName: 'app',
      rootDir: new URL('app', import.meta.url).pathname,
      preset: 'jest-expo/web',
      testMatch: ['<rootDir>/{src,test}/**/*.test.{ts,tsx}'],
      setupFilesAfterEnv: ['<rootDir>/test/setup.ts'],
      moduleNameMapper: {
        ...chrono,
        '^@/(.*)$': '<rootDir>/src/$1',
        '^@zephyrfield/core/(.*)$': '<rootDir>/../core/src/$1.ts',
        '\\.css$': '<rootDir>/test/no-style.ts',
      },
      transform: {
        '\\.[jt]sx?$': ['babel-jest', { caller: { name: 'metro', bundler: 'metro', platform: 'web' } }],
        '\\.mjs$': ['babel-jest', { caller: { name: 'metro', bundler: 'metro', platform: 'web' } }],
      },
      // Babel is slow: only what ships as untranspiled source or as ECMAScript modules goes through it.
      transformIgnorePatterns: [
        '/node_modules/(?!(react-native|@react-native|expo|@expo|nativewind|lucide-react-native|text-field-edit|temporal-polyfill|temporal-utils|htmlparser2|domhandler|domelementtype|domutils|dom-serializer|entities|markdown-it|linkify-it|mdurl|uc.micro)[^/]*/)',
      ],
    },
  ],
};
