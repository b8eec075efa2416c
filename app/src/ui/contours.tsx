import Svg, { Path } from 'react-native-svg';

/** Contour lines of a low coast: the only decoration, for empty places. */
export function Contours({ height = 120 }: { height?: number }) {
  const lines = [0, 1, 2, 3, 4, 5].map((i) => {
    const y = 14 + i * 16;
    return `M-10 ${y + 10}C40 ${y - 14 + i * 3} 90 ${y + 22 - i * 2} 150 ${y + 2}S260 ${y - 18 + i * 4} 330 ${y + 8}S420 ${y + 14} 440 ${y - 2}`;
  });
  return (
    <Svg width="100%" height={height} viewBox="0 0 420 120" preserveAspectRatio="xMidYMid slice" aria-hidden>
      {lines.map((d) => (
        <Path key={d} d={d} fill="none" stroke="var(--line)" strokeWidth={1.4} />
      ))}
    </Svg>
  );
}
