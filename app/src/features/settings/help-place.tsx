import type { Colour } from '@zephyrfield/core/item/flag';
import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { router } from '@/router';
import { Barb } from '@/ui/barb';
import { useSingleKeys } from '@/data/single-keys';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Flag } from '@/ui/flag';
import { KeyRows } from '@/ui/key-rows';
import { Part } from '@/ui/part';
import { PlaceHead } from '@/ui/place-head';
import { Slip, type SlipProps } from '@/ui/slip';
import { Text } from '@/ui/text';

const FLAGS: readonly (readonly [Colour, SlipProps['flag']])[] = [
  ['rust', { shape: 'pennon', pattern: 'chevron' }],
  ['deep', { shape: 'square', pattern: 'cross' }],
  ['plum', { shape: 'swallowtail', pattern: 'plain' }],
];

const EXAMPLE = { chosen: false, onOpen: () => {}, calendar: 'Boatbuilding' } as const;

/** Help: where a course site gives its link, what the shapes mean, every key. */
export function HelpPlace() {
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-2 px-4 pb-12 pt-3"
    >
      <PlaceHead title="Help and keys" />
      <Part title="Where a course site gives its link" aside="">
        <Text>
          Nearly every course site can give its calendar as a link. Sign in there and look for one of these:
        </Text>
        {WHERE.map((words) => (
          <Text key={words} className="pl-4">{`• ${words}`}</Text>
        ))}
        <Text>
          The link often ends in “.ics” or begins with “webcal”. Copy it whole and paste it here. It stays
          live: when a date moves there, it moves here. Keep it to yourself, because whoever has it can read
          that calendar.
        </Text>
        <Button className="self-start" onPress={() => router.push('/gather/follow')}>
          Follow a link
        </Button>
      </Part>
      <Part title="What the shapes mean" aside="">
        <Meaning words="Every calendar has a flag of its own. Press one above the calendar to hide it or show it again.">
          <View className="flex-row gap-4">
            {FLAGS.map(([colour, flag]) => (
              <Flag key={colour} colour={colour} flag={flag} size={28} />
            ))}
          </View>
        </Meaning>
        <Meaning words="A slip with a stub is work to hand in. The stub says when. Press “Finish” on it when it is done.">
          <Example
            shape="ticket"
            title="Keel plan"
            detail="hand in on paper"
            time="16:00"
            note="in 2 days"
            urgency="soon"
          />
        </Meaning>
        <Meaning words="A slip with a bar is somewhere to be: a lesson, a trip, a meeting.">
          <Example shape="block" title="Workshop" detail="Boat shed" time="9:10 – 10:20" urgency={null} />
        </Meaning>
        <Meaning words="A dashed slip is only good to know. Nothing has to be done.">
          <Example shape="note" title="Shed closed at noon" detail="" time="all day" urgency={null} />
        </Meaning>
        <Meaning words="A feather on the staff is an hour of work, half a feather half an hour, a pennant five hours.">
          <View className="flex-row flex-wrap gap-6">
            {[30, 120, 330].map((minutes) => (
              <View key={minutes} className="items-center">
                <Barb minutes={minutes} size={44} />
                <Text kind="small">{BARB_WORDS[minutes]}</Text>
              </View>
            ))}
          </View>
        </Meaning>
        <Meaning words="A strip with a dotted edge is a sitting: a part of a piece of work that you have planned for an evening.">
          <View className="flex-row items-center gap-3 rounded-r-lg border-l-[3px] border-dotted border-ink2 bg-sheet px-3 py-2">
            <Text kind="strong">17:15</Text>
            <View>
              <Text kind="strong">Keel plan</Text>
              <Text kind="small">3 of 6 · 20 min</Text>
            </View>
          </View>
        </Meaning>
        <Meaning words="An aim is the day you want to be done, before the due date. It has a dashed slip; the due date keeps its own.">
          <Example
            shape="ticket"
            title="Keel plan"
            detail=""
            time="aim"
            note="due Mon 12 Oct"
            urgency="coming"
            isAim
          />
        </Meaning>
      </Part>
      <Part title="Keys" aside="in the calendar">
        <SingleKeys />
        <KeyRows />
      </Part>
    </ScrollView>
  );
}

/** Turns single keys on and off, for this device. */
function SingleKeys() {
  const { areOn, turn } = useSingleKeys();
  return (
    <Choices
      label="Single keys"
      all={SINGLE_KEYS}
      value={areOn ? 'on' : 'off'}
      onChange={(value) => turn(value === 'on')}
    />
  );
}
const SINGLE_KEYS = [
  ['on', 'Single keys on'],
  ['off', 'Single keys off'],
] as const;

const WHERE = [
  'in its calendar: a button such as “Export”, “Subscribe”, “Feed” or “Share”',
  'in your settings there, under “Calendar” or “Notifications”',
  'on the page of a single course, at the foot of its calendar',
];

const BARB_WORDS: Record<number, string> = { 30: 'half an hour', 120: '2 h', 330: '5 h 30 min' };

/** A picture from the interface with what it means. */
function Meaning({ words, children }: { words: string; children: ReactNode }) {
  return (
    <View className="gap-1.5 pb-3">
      {/* A picture: nothing in it is pressed. */}
      <div aria-hidden inert className="max-w-[420px]">
        {children}
      </div>
      <Text>{words}</Text>
    </View>
  );
}

const Example = (
  props: Pick<SlipProps, 'shape' | 'title' | 'detail' | 'time' | 'note' | 'urgency' | 'isAim'>,
) => <Slip {...EXAMPLE} colour="rust" flag={FLAGS[0]![1]} spoken={props.title} {...props} />;
