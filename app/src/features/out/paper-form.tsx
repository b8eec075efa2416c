import { PAPERS, PRINTED, TURNS, type PaperAsked } from '@zephyrfield/core/out/paper-size';
import { formatDate } from '@zephyrfield/core/time/civil';
import { today } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { paperAddress } from '@/data/shares';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { DateField } from '@/ui/date-field';
import { Ticks } from '@/ui/ticks';

const OF = PRINTED.map((each) => [each, each === 'week' ? 'a week' : 'a month'] as const);
const SIZE = PAPERS.map((each) => [each, each === 'a4' ? 'A4' : 'US Letter'] as const);
const TURN = TURNS.map((each) => [each, each === 'portrait' ? 'upright' : 'on its side'] as const);
const BRIEFS = 'briefs';

/** Prints a week or a month: for the fridge, the folder, the meeting. */
export function PaperForm({ onClose }: { onClose(): void }) {
  const { learner, learners, viewer } = useLearner()!;
  const now = useNow();
  const [asked, setAsked] = useState<PaperAsked>({
    of: 'week',
    size: 'a4',
    turn: 'portrait',
    day: undefined,
  });
  const [day, setDay] = useState(formatDate(today(now, viewer)));
  const [others, setOthers] = useState<readonly string[]>([]);
  const [briefs, setBriefs] = useState(false);
  const set = (to: Partial<PaperAsked>) => setAsked({ ...asked, ...to });
  const choices = <T extends string>(
    label: string,
    all: readonly (readonly [T, string])[],
    value: T,
    onChange: (v: T) => void,
  ) => (
    <View className="-ml-2">
      <Choices label={label} all={all} value={value} onChange={onChange} />
    </View>
  );
  return (
    <View role="group" aria-label="On paper" className="gap-3 rounded-xl bg-sheet p-4">
      {choices('What is printed', OF, asked.of, (of) => set({ of }))}
      {choices('Which paper', SIZE, asked.size, (size) => set({ size }))}
      {choices('How it is turned', TURN, asked.turn, (turn) => set({ turn }))}
      <DateField label="A day in it" value={day} onChange={setDay} />
      {learners.length > 1 ? (
        <Ticks
          label="Also print"
          all={learners.filter((l) => l.id !== learner.id).map((l) => [l.id, l.name])}
          chosen={others}
          onChange={setOthers}
        />
      ) : null}
      <Ticks
        label="Along with it"
        all={[[BRIEFS, 'briefs']]}
        chosen={briefs ? [BRIEFS] : []}
        onChange={(chosen) => setBriefs(chosen.includes(BRIEFS))}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button
          disabled={!day}
          onPress={() => window.open(paperAddress(learner.id, { ...asked, day }, others, briefs), '_blank')}
        >
          Lay it out to print
        </Button>
        <Button kind="second" onPress={onClose}>
          Close
        </Button>
      </View>
    </View>
  );
}
