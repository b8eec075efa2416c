import type { Colour, Flag as FlagData } from '@zephyrfield/core/item/flag';
import type { Shape } from '@zephyrfield/core/item/kind';
import type { Whose } from '@zephyrfield/core/view/slips';
import type { Urgency } from '@zephyrfield/core/item/urgency';
import Check from 'lucide-react-native/icons/check';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { WhoseMark } from './cleat';
import { FILL, WASH } from './colours';
import { Flag } from './flag';
import { SlipPress } from './slip-press';
import { Text } from './text';

export interface SlipLineProps {
  /** Which item it is, for what listens on all slips */
  id: string;
  shape: Shape;
  colour: Colour;
  /** Its calendar’s: a colour alone tells nothing to who sees it otherwise */
  flag: Pick<FlagData, 'shape' | 'pattern'>;
  /** Whose it is, where several learners are shown together */
  whose?: Whose | undefined;
  title: string;
  /** When, as short as can be: `23:59`; empty where the place says it */
  time: string;
  urgency: Urgency | null;
  /** Said instead of the above by a screen reader, and told in short to who points at it */
  spoken: string;
  /** Not held after all: its title is struck through */
  calledOff?: boolean;
  chosen: boolean;
  /** A lighter slip, for the person’s aim: the true date has one of its own */
  isAim?: boolean;
  /**
   * Two lines of title, and in a narrow `measured` box the time below them; else what is narrow leaves the
   * time to its place by the hour
   */
  tall?: boolean;
  onOpen(): void;
}

/** A slip in one line, for views with many: a ticket keeps its stub, a block its bar, a note its dashes, a sitting its torn edge. */
export function SlipLine({
  id,
  shape,
  colour,
  flag,
  whose,
  title,
  time,
  urgency,
  spoken,
  calledOff = false,
  chosen,
  isAim = false,
  tall = false,
  onOpen,
}: SlipLineProps) {
  const finished = urgency === 'finished';
  const isTicket = shape === 'ticket' || shape === 'plainTicket';
  const isUnder = tall && time !== '' && !finished && !isAim;
  // Where a title takes two lines, so does its stub: flag and mark have their place there.
  const isMarkInStub = isUnder || (tall && finished);
  const marks = (
    <>
      <WhoseMark whose={whose} />
      <View className={NARROWEST}>
        <Flag colour={colour} flag={flag} size={SMALL_FLAG} />
      </View>
    </>
  );
  const box = isAim
    ? 'border border-dashed border-lagoon bg-paper'
    : finished
      ? 'bg-line'
      : isTicket
        ? 'bg-sheet shadow-sm'
        : shape === 'note'
          ? 'border border-dashed border-ink2'
          : shape === 'sitting'
            ? `rounded-l-none border-l-[3px] border-dotted border-ink2 ${WASH[colour]}`
            : WASH[colour];
  return (
    <SlipPress
      id={id}
      spoken={spoken}
      chosen={chosen}
      onOpen={onOpen}
      className={`min-h-[24px] flex-row rounded-[5px] hover:shadow-md ${box}`}
    >
      {isTicket ? (
        <View className={`w-[3px] ${FILL[colour]}`} />
      ) : shape === 'note' || shape === 'sitting' ? null : (
        <View className={`my-1 ml-1 w-[3px] rounded-full ${FILL[colour]}`} />
      )}
      {isMarkInStub ? null : (
        <View className={`flex-row items-center gap-0.5 pl-0.5 ${finished ? 'opacity-60' : ''}`}>
          {marks}
        </View>
      )}
      <View className={`min-w-0 flex-1 flex-row ${isUnder ? 'within-[139px]:flex-col' : ''}`}>
        <View className="min-w-0 flex-1 justify-center px-1">
          <Text
            kind="fine"
            numberOfLines={tall ? 2 : 1}
            className={`${tall ? '!leading-4' : ''} ${
              finished || calledOff ? 'text-ink2 line-through' : urgency === 'pastDue' ? 'text-poppy' : ''
            }`}
            dir="auto"
          >
            {title}
          </Text>
        </View>
        {finished ? (
          <View className="items-center justify-center gap-0.5 px-1">
            <Check size={14} color="var(--fern)" strokeWidth={3} aria-hidden />
            {isMarkInStub ? marks : null}
          </View>
        ) : !isAim && (isTicket || time) ? (
          <Stub {...{ shape, colour, time, urgency, isUnder }}>{isMarkInStub ? marks : null}</Stub>
        ) : null}
      </View>
    </SlipPress>
  );
}

/** Height of the flag on it, in pixels */
export const SMALL_FLAG = 9;
/** Where there is room for a few letters alone, the title has it. */
const NARROWEST = 'within-[79px]:hidden';

/** Where the stub lies below its title, time and mark stand side by side in it. */
const BELOW = 'within-[139px]:flex-row within-[139px]:items-center within-[139px]:justify-between';

/**
 * The part with the time, torn off along dots from a ticket: beside the title or, where that is said, below
 * it in a narrow box.
 */
function Stub({
  shape,
  colour,
  time,
  urgency,
  isUnder,
  children,
}: Pick<SlipLineProps, 'shape' | 'colour' | 'time' | 'urgency'> & { isUnder: boolean; children: ReactNode }) {
  const edge =
    shape === 'ticket' || shape === 'plainTicket'
      ? `border-dotted border-ink2 border-l ${isUnder ? 'within-[139px]:border-l-0 within-[139px]:border-t' : ''}`
      : '';
  const room = !time ? '' : isUnder ? 'px-1 within-[139px]:px-1.5' : 'px-1 within-[139px]:px-0';
  const ink = urgency === 'pastDue' ? 'text-poppy' : urgency === 'soon' ? 'text-marigold' : '';
  return (
    <View
      className={`min-w-[9px] justify-center ${isUnder ? BELOW : ''} ${edge} ${room} ${shape === 'ticket' ? WASH[colour] : ''}`}
    >
      {time ? (
        <Text kind="fine" className={`font-bold ${isUnder ? '' : 'within-[139px]:hidden'} ${ink}`}>
          {time}
        </Text>
      ) : null}
      {children ? <View className="flex-row items-center gap-0.5">{children}</View> : null}
    </View>
  );
}

/** A stretch of days: a ribbon with square ends where it begins and ends, cut where it goes on. */
export function Ribbon({
  id,
  colour,
  flag,
  whose,
  title,
  spoken,
  before,
  after,
  chosen,
  onOpen,
}: {
  id: string;
  colour: Colour;
  flag: SlipLineProps['flag'];
  whose: Whose | undefined;
  title: string;
  spoken: string;
  before: boolean;
  after: boolean;
  chosen: boolean;
  onOpen(): void;
}) {
  return (
    <SlipPress
      id={id}
      spoken={spoken}
      chosen={chosen}
      onOpen={onOpen}
      className={`h-[24px] justify-center px-2 hover:shadow-md ${WASH[colour]} ${before ? '' : 'rounded-l-[5px]'} ${after ? '' : 'rounded-r-[5px]'}`}
    >
      <View className={`absolute bottom-0 left-0 right-0 h-[3px] ${FILL[colour]}`} />
      <View className="flex-row items-center gap-1.5">
        <WhoseMark whose={whose} />
        <Flag colour={colour} flag={flag} size={SMALL_FLAG} />
        <Text kind="fine" numberOfLines={1} className="min-w-0 flex-1 font-bold" dir="auto">
          {before ? '… ' : ''}
          {title}
        </Text>
      </View>
    </SlipPress>
  );
}

/** The smallest a thing can be drawn, where a day has no room for words: its shape and colour. */
export function Mark({ shape, colour, finished }: { shape: Shape; colour: Colour; finished: boolean }) {
  if (finished) return <View className="h-[8px] w-[8px] rounded-[2px] border border-fern" aria-hidden />;
  if (shape === 'note')
    return <View className="h-[8px] w-[8px] rounded-[2px] border border-dashed border-ink2" aria-hidden />;
  const isTicket = shape === 'ticket' || shape === 'plainTicket';
  return (
    <View
      className={`h-[8px] ${isTicket ? 'w-[13px] rounded-[1px]' : 'w-[5px] rounded-full'} ${FILL[colour]}`}
      aria-hidden
    />
  );
}
