import { WIDE_FROM } from '@zephyrfield/core/api/look';
import { useWindowDimensions } from 'react-native';

/** Whether there is room for a rail and a side sheet; the same width as the `wide:` classes. */
export const useIsWide = () => useWindowDimensions().width >= WIDE_FROM;
