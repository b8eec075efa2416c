import { useWindowDimensions } from 'react-native';

/**
 * Width, in CSS pixels, from which there is room for a rail and a side sheet; the same as the `wide:` classes
 * have.
 */
const WIDE_FROM = 900;

/** For what a style sheet cannot decide: what is drawn at all. */
export const useIsWide = () => useWindowDimensions().width >= WIDE_FROM;
