import type { Colour, Flag as FlagData } from '@zephyrfield/core/item/flag';
import { useId } from 'react';
import Svg, { ClipPath, Circle, Path, Rect } from 'react-native-svg';
import { ink } from './colours';

/** Cloth outlines in a box of 26 by 16; the pole stands at the left. */
const SHAPES: Record<FlagData['shape'], string> = {
  pennon: 'M2 1L25 7.5L2 14Z',
  swallowtail: 'M2 1H25L19 7.5L25 14H2Z',
  square: 'M2 1H18V14H2Z',
  burgee: 'M2 1L24 4L18.5 7.5L24 11L2 14Z',
  streamer: 'M2 3C9 -1 14 7 25 2.5V9.5C15 14 9 6 2 12Z',
  shield: 'M2 1H19V7C19 11.5 14 14 10.5 15C7 14 2 11.5 2 7Z',
  guidon: 'M2 1H17C22 1 24.5 3.5 20 7.5C24.5 11.5 22 14 17 14H2Z',
  wedge: 'M2 1L25 5V10L2 14Z',
  scallop: 'M2 1H24C19.5 3 19.5 5.5 24 7.5C19.5 9.5 19.5 12 24 14H2Z',
  banner: 'M2 1H14V15.5L8 11.5L2 15.5Z',
  lozenge: 'M2 7.5L13 1L24 7.5L13 14Z',
  drop: 'M2 1H14C20 1 25 4.5 25 7.5C25 10.5 20 14 14 14H2Z',
};

const WHITE = 'rgba(255,255,255,0.92)';

/** What is on the cloth, and only there: `clipPath` is the cloth's outline. */
function Pattern({ pattern, clipPath }: { pattern: FlagData['pattern']; clipPath: string }) {
  switch (pattern) {
    case 'bar':
      return <Rect x={7.5} y={0} width={4} height={16} fill={WHITE} clipPath={clipPath} />;
    case 'cross':
      return <Path d="M8 0H10.8V6.1H26V8.9H10.8V16H8V8.9H0V6.1H8Z" fill={WHITE} clipPath={clipPath} />;
    case 'dot':
      return <Circle cx={8.5} cy={7.5} r={3} fill={WHITE} clipPath={clipPath} />;
    case 'chevron':
      return <Path d="M2 1L9 7.5L2 14" fill="none" stroke={WHITE} strokeWidth={2.6} clipPath={clipPath} />;
    case 'halves':
      return <Rect x={0} y={7.5} width={26} height={9} fill={WHITE} opacity={0.82} clipPath={clipPath} />;
    case 'stripe':
      return <Path d="M2 14.5L14 0.5" stroke={WHITE} strokeWidth={3.2} clipPath={clipPath} />;
    case 'border':
      return (
        <Path d="M5.2 4.2H13V10.8H5.2Z" fill="none" stroke={WHITE} strokeWidth={2} clipPath={clipPath} />
      );
    default:
      return null;
  }
}

export interface FlagProps {
  colour: Colour;
  flag: Pick<FlagData, 'shape' | 'pattern'>;
  /** Height in pixels */
  size?: number;
  /** Drawn as an outline, for a hidden calendar */
  struck?: boolean;
}

/** A calendar's flag. A picture beside words, so screen readers pass over it. */
export function Flag({ colour, flag, size = 16, struck = false }: FlagProps) {
  // Ids of clip paths are the page's, so each flag needs its own.
  const id = `flag${useId().replace(/[^a-zA-Z0-9]/g, '')}`;
  const shape = SHAPES[flag.shape];
  const fill = ink(colour);
  return (
    <Svg
      width={(size * 27) / 17}
      height={size}
      viewBox="0 0 27 17"
      style={{ flexShrink: 0 }}
      aria-hidden
      focusable={false}
    >
      {struck ? (
        <Path d={shape} fill="none" stroke={fill} strokeWidth={1.6} strokeDasharray="2.4 1.8" />
      ) : (
        <>
          <Path d={shape} fill={fill} />
          {flag.pattern !== 'plain' && (
            <>
              <ClipPath id={id}>
                <Path d={shape} />
              </ClipPath>
              <Pattern pattern={flag.pattern} clipPath={`url(#${id})`} />
            </>
          )}
          {/* The outline keeps a light pattern from opening the cloth to the ground. */}
          <Path d={shape} fill="none" stroke={fill} strokeWidth={1.4} strokeLinejoin="round" />
        </>
      )}
      <Path d="M1.2 0.5V16.5" stroke="var(--ink)" strokeWidth={1.6} strokeLinecap="round" />
    </Svg>
  );
}
