import { ITEM_COLUMNS, RECORD_COLUMNS } from '@zephyrfield/core/out/columns';
import { useState } from 'react';
import { View } from 'react-native';
import { useLearner } from '@/data/learner';
import { fileAddress } from '@/data/shares';
import { Button } from '@/ui/button';
import { DateField } from '@/ui/date-field';
import { Choice } from '@/ui/field';
import { Ticks } from '@/ui/ticks';
import { ChosenCalendars } from './chosen-calendars';

const KINDS = [
  { value: 'calendar', words: 'a calendar, for another program (.ics)' },
  { value: 'items', words: 'a table of items (.csv)' },
  { value: 'records', words: 'a table of what was finished and handed in (.csv)' },
] as const;
type Kind = (typeof KINDS)[number]['value'];
const columnsOf = (kind: Kind): [string, string][] =>
  kind === 'calendar'
    ? []
    : Object.entries(kind === 'items' ? ITEM_COLUMNS : RECORD_COLUMNS).map(([name, { heading }]) => [
        name,
        heading,
      ]);

/** Makes a file: of what, from when to when, and for a table in which columns. */
export function FileForm({ onClose }: { onClose(): void }) {
  const { learner } = useLearner()!;
  const [kind, setKind] = useState<Kind>('calendar');
  const [calendars, setCalendars] = useState<string[] | null>(null);
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const [left, setLeft] = useState<readonly string[]>([]);
  const columns = columnsOf(kind);
  const chosen = columns.map(([name]) => name).filter((name) => !left.includes(name));
  const isWrong = from !== '' && to !== '' && to < from;
  const isNothing = calendars?.length === 0 || (kind !== 'calendar' && chosen.length === 0);
  const go = () =>
    globalThis.location.assign(
      fileAddress(learner.id, {
        calendars,
        from,
        to,
        table: kind === 'calendar' ? null : { of: kind, columns: chosen },
      }),
    );
  return (
    <View role="group" aria-label="A file" className="gap-4 rounded-xl bg-sheet p-4">
      <Choice
        label="What it is"
        value={kind}
        options={KINDS}
        onChange={(e) => setKind(e.currentTarget.value as Kind)}
      />
      <ChosenCalendars value={calendars} onChange={setCalendars} />
      <View className="flex-row flex-wrap gap-3">
        <View className="min-w-[140px] flex-1">
          <DateField label="From" hint="Left open, all of it" value={from} onChange={setFrom} />
        </View>
        <View className="min-w-[140px] flex-1">
          <DateField
            label="To"
            value={to}
            error={isWrong ? 'That is before the first day.' : undefined}
            onChange={setTo}
          />
        </View>
      </View>
      {columns.length ? (
        <Ticks
          label="Columns"
          all={columns}
          chosen={chosen}
          onChange={(now) => setLeft(columns.map(([name]) => name).filter((name) => !now.includes(name)))}
        />
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button disabled={isWrong || isNothing} onPress={go}>
          Make the file
        </Button>
        <Button kind="second" onPress={onClose}>
          Close
        </Button>
      </View>
    </View>
  );
}
