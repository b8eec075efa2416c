import '@testing-library/jest-dom';
// Without it NativeWind's classes vanish in tests.
import 'react-native-css-interop/dist/runtime/components';
