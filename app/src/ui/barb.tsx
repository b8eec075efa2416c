import { barbOf } from '@zephyrfield/core/view/load';
import Svg, { Circle, Path } from 'react-native-svg';

/**
 * A load as a wind barb: half a feather is half an hour of work, a feather an hour, a pennant five. The words
 * stand beside it.
 */
export function Barb({
  minutes,
  size = 30,
  colour = 'var(--ink)',
}: {
  minutes: number;
  size?: number;
  colour?: string;
}) {
  const { pennants, feathers, half } = barbOf(minutes);
  const parts: string[] = [];
  let x = 33;
  for (let i = 0; i < pennants; i++) {
    parts.push(`M${x} 13L${x + 4} 3L${x - 5} 13Z`);
    x -= 6.5;
  }
  for (let i = 0; i < feathers; i++) {
    parts.push(`M${x} 13L${x + 4} 3`);
    x -= 4.5;
  }
  // Half a feather never stands at the very end, where it could be taken for the staff.
  if (half) parts.push(`M${Math.min(x, 28.5)} 13L${Math.min(x, 28.5) + 2} 8`);
  return (
    <Svg width={size} height={(size * 16) / 38} viewBox="0 0 38 16" aria-hidden>
      <Path
        d={`M4 13H33${parts.join('')}`}
        stroke={colour}
        strokeWidth={1.7}
        strokeLinecap="round"
        strokeLinejoin="round"
        fill={colour}
      />
      <Circle cx={4} cy={13} r={2.2} fill={colour} />
    </Svg>
  );
}
