import type { Colour, Flag as FlagData } from '@zephyrfield/core/item/flag';
import type { Shape } from '@zephyrfield/core/item/kind';
import type { Whose } from '@zephyrfield/core/view/slips';
import type { Urgency } from '@zephyrfield/core/item/urgency';
import { Pressable, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { FILL, WASH } from './colours';
import { WhoseMark } from './cleat';
import { Flag } from './flag';
import { SlipPress } from './slip-press';
import { Text } from './text';

export interface SlipProps {
  /** Which item it is, for what listens on all slips */
  id?: string;
  shape: Shape;
  colour: Colour;
  flag: Pick<FlagData, 'shape' | 'pattern'>;
  /** Whose it is, where several learners are shown together */
  whose?: Whose | undefined;
  /** The calendar it stands in */
  calendar: string;
  title: string;
  /** Small print under the title */
  detail: string;
  /** When, in few words: `23:59`, `17:00 – 17:40`, `all day` */
  time: string;
  /** After it was torn off: how it was handed in, `on paper` */
  handedIn?: string | undefined;
  /** On the stub, under the time: `today`, `past due` */
  note?: string | undefined;
  urgency: Urgency | null;
  /** Said instead of the above by a screen reader */
  spoken: string;
  /** Not held after all: its title is struck through */
  calledOff?: boolean;
  chosen: boolean;
  /** A lighter slip, for the person’s aim: the true date has one of its own */
  isAim?: boolean;
  onOpen(): void;
  /** Finishes it or takes that back; absent where the person may not */
  onFinish?: (() => void) | undefined;
}

/** An item as a slip of paper: its shape says what it is and how it stands, its colour only whose it is. */
export function Slip(props: SlipProps) {
  return props.urgency === null ? <Placed {...props} /> : <Ticket {...props} />;
}

const NOTE_COLOUR: Record<Urgency, string> = {
  finished: 'text-fern',
  coming: 'text-ink2',
  soon: 'text-marigold',
  pastDue: 'text-poppy',
  unsettled: 'text-ink2',
  closed: 'text-ink2',
};

/** Something to hand in: the stub on its right carries when and how; finishing it tears the stub off. */
function Ticket({
  id,
  shape,
  colour,
  flag,
  whose,
  calendar,
  title,
  detail,
  time,
  handedIn,
  note,
  urgency,
  spoken,
  chosen,
  isAim = false,
  onOpen,
  onFinish,
}: SlipProps) {
  const finished = urgency === 'finished';
  const ring = chosen ? 'ring-2 ring-lagoon' : '';
  return (
    <View className="measured">
      <View className={`flex-row rounded-lg within-[16rem]:flex-col ${ring}`}>
        <Pressable
          role="button"
          aria-label={spoken}
          dataSet={{ slip: id }}
          onPress={onOpen}
          className={`min-h-[60px] flex-1 flex-row overflow-hidden rounded-l-lg within-[16rem]:flex-none ${isAim ? 'border border-r-0 border-dashed border-lagoon' : finished ? 'bg-line/40' : 'bg-sheet shadow-sm hover:shadow-md'}`}
        >
          <View className={`w-[5px] ${FILL[colour]} ${finished ? 'opacity-50' : ''}`} />
          <View className="flex-1 justify-center px-3 py-1.5">
            <View className="flex-row items-center gap-2">
              <WhoseMark whose={whose} />
              <Flag colour={colour} flag={flag} size={13} />
              <Text kind="small" className={`flex-1 ${ONE_LINE}`}>
                {calendar}
              </Text>
            </View>
            <Text
              kind="strong"
              className={`line-clamp-2 within-[16rem]:line-clamp-none ${finished ? 'text-ink2 line-through' : ''}`}
              dir="auto"
            >
              {title}
            </Text>
            {detail ? (
              <Text kind="small" className={ONE_LINE}>
                {detail}
              </Text>
            ) : null}
          </View>
        </Pressable>
        {isAim ? null : (
          <TearLine torn={finished} plain={shape === 'plainTicket'} wash={`var(--${colour}-wash)`} />
        )}
        <Pressable
          {...(onFinish
            ? {
                role: 'button',
                'aria-label': finished ? `Take back: ${title} is not finished` : `Finish ${title}`,
              }
            : STUB_ONLY)}
          onPress={onFinish ?? onOpen}
          className={`w-[96px] justify-center rounded-r-lg px-2 py-1.5 within-[16rem]:w-full within-[16rem]:flex-row within-[16rem]:flex-wrap within-[16rem]:items-baseline within-[16rem]:justify-between within-[16rem]:gap-x-3 within-[16rem]:px-4 ${isAim ? 'border border-l-0 border-dashed border-lagoon' : finished ? '' : `${shape === 'plainTicket' ? 'bg-sheet' : WASH[colour]} shadow-sm hover:shadow-md`}`}
        >
          {finished ? (
            <>
              <Text kind="label" className="text-fern">
                finished
              </Text>
              {handedIn ? (
                <Text kind="small" numberOfLines={1}>
                  {handedIn}
                </Text>
              ) : null}
            </>
          ) : (
            <>
              <Text className="font-display text-lead font-bold text-ink">{time}</Text>
              {note && urgency ? (
                <Text kind="small" className={`${ONE_LINE} ${NOTE_COLOUR[urgency]}`}>
                  {note}
                </Text>
              ) : null}
              {onFinish ? (
                <Text kind="small" className="font-bold text-lagoon underline">
                  Finish
                </Text>
              ) : null}
            </>
          )}
        </Pressable>
      </View>
    </View>
  );
}

/** What gives way first; with large text, where the stub stands below, all of it is shown. */
const ONE_LINE = 'line-clamp-1 within-[16rem]:line-clamp-none';

/**
 * Where one may only look, the stub is a part of the slip: a press opens it, and what is read out says all
 * already.
 */
const STUB_ONLY = { 'aria-hidden': true, tabIndex: -1 } as const;

const TEETH = 'M0 0H4L1 5L6 10L2 16L5 22L1 28L6 34L2 40L5 46L1 52L6 58L2 64L5 70L1 76L6 82L2 88L4 96V100H0Z';

/** Between ticket and stub: notches and a dotted line, or torn paper once the stub is off. */
function TearLine({ torn, plain, wash }: { torn: boolean; plain: boolean; wash: string }) {
  return (
    <View className="w-[10px] self-stretch within-[16rem]:hidden" aria-hidden>
      <View className="absolute inset-0">
        {/* Out of the flow: the drawing follows the slip's height and must not set it. */}
        <Svg width="100%" height="100%" viewBox="0 0 10 100" preserveAspectRatio="none">
          {torn ? (
            <Path d={TEETH} fill="var(--line)" opacity={0.4} />
          ) : (
            <>
              <Path d="M0 0H5V100H0Z" fill="var(--sheet)" />
              <Path d="M5 0H10V100H5Z" fill={plain ? 'var(--sheet)' : wash} />
              <Path
                d="M5 12V90"
                stroke="var(--ink2)"
                strokeWidth={1}
                strokeDasharray="2 4"
                vectorEffect="non-scaling-stroke"
                opacity={plain ? 0.25 : 0.7}
              />
            </>
          )}
        </Svg>
      </View>
      {torn ? null : (
        <>
          <View className="absolute -top-[5px] left-0 h-[10px] w-[10px] rounded-full bg-paper" />
          <View className="absolute -bottom-[5px] left-0 h-[10px] w-[10px] rounded-full bg-paper" />
        </>
      )}
    </View>
  );
}

/** Somewhere to be (a block), days on end (a ribbon), something to know (a note), or a sitting. */
function Placed({
  id,
  shape,
  colour,
  flag,
  whose,
  calendar,
  title,
  detail,
  time,
  spoken,
  calledOff = false,
  chosen,
  onOpen,
}: SlipProps) {
  const box =
    shape === 'note'
      ? 'border border-dashed border-ink2/50'
      : `${WASH[colour]} ${shape === 'sitting' ? 'rounded-l-none border-l-[3px] border-dotted border-ink2' : ''}`;
  return (
    <SlipPress
      id={id}
      spoken={spoken}
      chosen={chosen}
      onOpen={onOpen}
      className={`min-h-[56px] flex-row rounded-xl px-2 py-2 hover:shadow-md ${box}`}
    >
      {shape === 'ribbon' ? (
        <View className={`absolute bottom-0 left-0 right-0 h-[5px] ${FILL[colour]}`} />
      ) : shape === 'sitting' ? null : (
        <View className={`my-0.5 w-[3px] rounded-full ${FILL[colour]}`} />
      )}
      <View className="flex-1 gap-0.5 px-2">
        <View className="flex-row flex-wrap items-baseline justify-between gap-x-2">
          <Text kind="label" className="max-w-full shrink-0 font-display">
            {time}
          </Text>
          <Text kind="small" numberOfLines={1} className="min-w-0 shrink">
            {detail}
          </Text>
        </View>
        <View className="flex-row items-center gap-2">
          <WhoseMark whose={whose} />
          <Flag colour={colour} flag={flag} size={13} />
          <Text
            kind="strong"
            numberOfLines={2}
            className={`min-w-0 flex-1 ${calledOff ? 'text-ink2 line-through' : ''}`}
            dir="auto"
          >
            {title}
          </Text>
        </View>
        <Text className="sr-only">{calendar}</Text>
      </View>
    </SlipPress>
  );
}
