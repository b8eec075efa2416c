import type { LearnerRow, LearnersTable } from '@zephyrfield/core/api/table';
import { weekWord } from '@zephyrfield/core/view/load';
import { hoursWords, shortDue, type Viewer } from '@zephyrfield/core/words/when';
import { useRef } from 'react';
import { Pressable, View } from 'react-native';
import { Barb } from '@/ui/barb';
import { elementOf } from '@/ui/element';
import { Text } from '@/ui/text';
import { COUNTS, shortName, type Section } from './words';

interface Props {
  sections: readonly Section[];
  weeks: LearnersTable['weeks'];
  /** The week that is looked at, by its first day */
  week: string | null;
  chosen: string | null;
  /** Something is open beside it: there is room for less */
  isNarrow: boolean;
  viewer: Viewer;
  onWeek(start: string): void;
  onLearner(id: string): void;
}

/** Those that stay where there is room for few. */
const NARROW: readonly string[] = ['pastDue', 'notOpened'];

/** The table on a wide screen: a row a learner, weeks as barbs in columns, counts, the next thing. */
export function LearnerRows({ sections, weeks, week, chosen, isNarrow, viewer, onWeek, onLearner }: Props) {
  const box = useRef<View>(null);
  const column = weeks.length > 5 || isNarrow ? 'w-[54px]' : 'w-[72px]';
  const counts = isNarrow ? COUNTS.filter(([of]) => NARROW.includes(of)) : COUNTS;
  /** Up and down go from name to name, as they do in every list. */
  const step = (event: { key?: string; preventDefault?(): void }) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (!by) return;
    const names = [...elementOf(box.current)!.querySelectorAll<HTMLElement>('[data-learner]')];
    const to = names[names.indexOf(document.activeElement as HTMLElement) + by];
    if (!to) return;
    event.preventDefault?.();
    to.focus();
  };
  return (
    <View ref={box} role="table" aria-label="Learners" className="pt-1" {...{ onKeyDown: step }}>
      <View role="row" className="flex-row items-end border-b border-line pb-1">
        <View role="columnheader" className="min-w-[150px] flex-[3] px-2">
          <Text kind="small" className="sr-only">
            Learner
          </Text>
        </View>
        {weeks.map(({ start, name }) => (
          <View key={start} role="columnheader" className={column}>
            <Pressable
              role="button"
              aria-pressed={week === start}
              aria-label={`Who has what in ${name}`}
              onPress={() => onWeek(start)}
              className={`min-h-touch items-center justify-end rounded-t-lg border-b-[3px] px-0.5 pb-1 ${week === start ? 'border-lagoon bg-sheet' : 'border-transparent hover:bg-lagoon-wash'}`}
            >
              <Text
                kind="small"
                numberOfLines={2}
                className={`text-center ${week === start ? 'font-bold text-ink' : 'text-lagoon underline'}`}
              >
                {shortName(name)}
              </Text>
            </Pressable>
          </View>
        ))}
        {counts.map(([, words]) => (
          <View key={words} role="columnheader" className="w-[64px] px-1">
            <Text kind="small" className="text-right">
              {words}
            </Text>
          </View>
        ))}
        {isNarrow ? null : (
          <View role="columnheader" className="min-w-[150px] flex-[3] px-3">
            <Text kind="small">next</Text>
          </View>
        )}
      </View>
      {sections.map(({ title, rows }) => (
        <View key={title} role="rowgroup" aria-label={title || 'Learners'}>
          {title ? (
            <View role="row" className="px-2 pb-1 pt-4">
              <View role="rowheader">
                <Text kind="title" heading={2}>
                  {title}
                </Text>
              </View>
            </View>
          ) : null}
          {rows.map((row) => (
            <Row
              key={row.learnerId}
              row={row}
              weeks={weeks}
              week={week}
              column={column}
              counts={counts}
              isNarrow={isNarrow}
              isChosen={row.learnerId === chosen}
              viewer={viewer}
              onPress={() => onLearner(row.learnerId)}
            />
          ))}
        </View>
      ))}
    </View>
  );
}

function Row({
  row,
  weeks,
  week,
  column,
  counts,
  isNarrow,
  isChosen,
  viewer,
  onPress,
}: Pick<Props, 'weeks' | 'week' | 'viewer' | 'isNarrow'> & {
  row: LearnerRow;
  column: string;
  counts: readonly (typeof COUNTS)[number][];
  isChosen: boolean;
  onPress(): void;
}) {
  return (
    <View
      role="row"
      className={`min-h-[52px] flex-row items-stretch border-b border-line ${isChosen ? 'bg-sheet' : ''}`}
    >
      <View role="rowheader" className="min-w-[150px] flex-[3]">
        <Pressable
          role="button"
          aria-pressed={isChosen}
          onPress={onPress}
          className="min-h-[52px] justify-center rounded-lg px-2 py-1 hover:bg-lagoon-wash"
          {...{ dataSet: { learner: row.learnerId } }}
        >
          <Text kind="strong" className={isChosen ? '' : 'text-lagoon underline'}>
            {row.name}
          </Text>
          {row.reasons.length ? (
            <Text kind="small" className="leading-[18px]">
              {row.reasons.slice(0, 2).join(' · ')}
            </Text>
          ) : null}
        </Pressable>
      </View>
      {weeks.map(({ start, name }, i) => {
        const minutes = row.weeks[i] ?? 0;
        return (
          <View
            key={start}
            role="cell"
            className={`items-center justify-center ${column} ${week === start ? 'bg-lagoon-wash' : ''}`}
          >
            {minutes ? (
              <View role="img" aria-label={`${name}: ${hoursWords(minutes)}, ${weekWord(minutes)}`}>
                <Barb minutes={minutes} size={38} />
              </View>
            ) : (
              <Text kind="small" aria-label={`${name}: nothing`}>
                –
              </Text>
            )}
          </View>
        );
      })}
      {counts.map(([of]) => (
        <View key={of} role="cell" className="w-[64px] justify-center px-1">
          <Text
            className={`text-right ${row[of] ? 'font-bold' : 'text-ink2'} ${of === 'pastDue' && row[of] ? 'text-poppy' : ''}`}
          >
            {row[of] || '–'}
          </Text>
        </View>
      ))}
      {isNarrow ? null : (
        <View role="cell" className="min-w-[150px] flex-[3] justify-center px-3">
          {row.next ? (
            <>
              <Text kind="strong" numberOfLines={1}>
                {row.next.title}
              </Text>
              <Text kind="small" numberOfLines={1}>
                {shortDue(row.next.due, viewer)}
              </Text>
            </>
          ) : (
            <Text kind="small">nothing ahead</Text>
          )}
        </View>
      )}
    </View>
  );
}
