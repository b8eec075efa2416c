import type { LearnerRow, LearnersTable } from '@zephyrfield/core/api/table';
import { weekWord } from '@zephyrfield/core/view/load';
import { hoursWords, shortDue, type Viewer } from '@zephyrfield/core/words/when';
import { Pressable, View } from 'react-native';
import { Barb } from '@/ui/barb';
import { Cleat } from '@/ui/cleat';
import { Text } from '@/ui/text';
import { COUNTS, shortName, type Section } from './words';

interface Props {
  sections: readonly Section[];
  weeks: LearnersTable['weeks'];
  viewer: Viewer;
  onLearner(id: string): void;
}

/** The same on a phone: a slip a learner, those who need help first. */
export function LearnerSlips({ sections, weeks, viewer, onLearner }: Props) {
  return (
    <View className="gap-3">
      {sections.map(({ title, rows }) => (
        <View key={title} role="group" aria-label={title || 'Learners'} className="gap-2">
          {title ? (
            <Text kind="title" heading={2}>
              {title}
            </Text>
          ) : null}
          {rows.map((row) => (
            <Slip
              key={row.learnerId}
              row={row}
              weeks={weeks}
              viewer={viewer}
              onPress={() => onLearner(row.learnerId)}
            />
          ))}
        </View>
      ))}
    </View>
  );
}

const UNSAID: readonly string[] = ['unsettled', 'notOpened'];

function Slip({
  row,
  weeks,
  viewer,
  onPress,
}: Pick<Props, 'weeks' | 'viewer'> & { row: LearnerRow; onPress(): void }) {
  // What is a reason is said above already.
  const said = row.reasons.join(' ');
  const counts = COUNTS.filter(([of, words]) => UNSAID.includes(of) && row[of] > 0 && !said.includes(words));
  return (
    <Pressable
      role="button"
      onPress={onPress}
      className="gap-1 rounded-xl border-b-[3px] border-line bg-sheet px-3 py-2 hover:bg-lagoon-wash"
    >
      <View className="flex-row items-center gap-3">
        <Cleat name={row.name} />
        <View className="min-w-0 flex-1">
          <Text kind="strong">{row.name}</Text>
          <Text kind="small">{row.reasons.length ? row.reasons.join(' · ') : 'on their way'}</Text>
        </View>
      </View>
      <View className="flex-row gap-1 pt-1">
        {weeks.slice(0, 5).map(({ start, name }, i) => {
          const minutes = row.weeks[i] ?? 0;
          return (
            <View key={start} className="min-w-0 flex-1 items-center">
              <View
                role="img"
                aria-label={`${name}: ${minutes ? `${hoursWords(minutes)}, ${weekWord(minutes)}` : 'nothing'}`}
                className="h-[18px] justify-end"
              >
                {minutes ? <Barb minutes={minutes} size={36} /> : <Text kind="small">–</Text>}
              </View>
              <Text kind="tight" numberOfLines={1} className="text-ink2" aria-hidden>
                {shortName(name)}
              </Text>
            </View>
          );
        })}
      </View>
      {counts.length ? (
        <Text kind="small">{counts.map(([of, words]) => `${row[of]} ${words}`).join(' · ')}</Text>
      ) : null}
      <Text kind="small">
        {row.next ? (
          <>
            {'Next: '}
            <Text kind="small" className="font-bold text-ink">
              {row.next.title}
            </Text>
            {`, ${shortDue(row.next.due, viewer)}`}
          </>
        ) : (
          'Nothing ahead'
        )}
      </Text>
    </Pressable>
  );
}
