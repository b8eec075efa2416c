import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';
// Parts that are loaded late, as the page hands them in.
import '../src/bundles';
// Without it NativeWind's classes vanish in tests.
import 'react-native-css-interop/dist/runtime/components';

// Looking for a role through a long page takes jsdom a second by itself where the machine has other things to
// do.
configure({ asyncUtilTimeout: 15_000 });
