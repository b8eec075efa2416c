import { useWindowDimensions } from 'react-native';

/** Whether there is room for a rail and a side sheet; the same width as the `wide:` classes. */
export const useIsWide = () => useWindowDimensions().width >= 900;
