import type { ItemKind } from '@zephyrfield/core/item/kind';
import { entryId, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { agendaFrom, grouped, type Agenda, type AgendaDay } from '@zephyrfield/core/view/agenda';
import { KIND_GROUP_WORDS } from '@zephyrfield/core/item/words';
import { daysAway, longDay, today, type Viewer } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { civilDate } from '@zephyrfield/core/time/civil';
import { FlashList } from '@shopify/flash-list';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { Text } from '@/ui/text';
import { Draggable, DayBox } from './drag';
import type { Drawing } from './drawing';
import { SlipRow } from './slip-row';

interface Props extends Drawing {
  agenda: Agenda;
  group: 'day' | 'course' | 'kind';
  span: 'upcoming' | 'past' | 'all';
  /** A day to begin at; null for the present */
  from: number | null;
  onFinish?: ((entry: AgendaEntry) => void) | undefined;
  /** An end of the list is near: more is wanted there */
  onFurther(which: 'back' | 'ahead'): void;
}

/** A row of the list; `day` where it is a day's heading or stands under one. */
type Row =
  | { kind: 'earlier'; days: number }
  | { kind: 'heading'; id: string; title: string; aside: string; day?: number; isPastDue?: boolean }
  | { kind: 'free'; id: string }
  | { kind: 'entry'; entry: AgendaEntry; day?: number | undefined };

interface DayRowsOptions {
  showEarlier: boolean;
  span: Props['span'];
  from: number | null;
}

function rowsOf(
  agenda: Agenda,
  now: number,
  viewer: Viewer,
  { showEarlier, span, from }: DayRowsOptions,
): Row[] {
  const { pastDue, earlier, days } = agenda;
  const day0 = today(now, viewer);
  const thisYear = civilDate(day0).year;
  const dayRows = ({ day, entries: list }: AgendaDay): Row[] => [
    { kind: 'heading', id: String(day), day, title: longDay(day, thisYear), aside: daysAway(day, day0) },
    ...(list.length ? entryRows(list, day) : [{ kind: 'free', id: `free ${day}` } as Row]),
  ];
  const past: Row[] = pastDue.length
    ? [
        {
          kind: 'heading',
          id: 'past due',
          title: 'Past due',
          aside: plural(pastDue.length, 'item'),
          isPastDue: true,
        },
        ...entryRows(pastDue),
      ]
    : [];
  // Looked at from a day elsewhere: from there on, whatever it is.
  if (from !== null) return agendaFrom(agenda, from, viewer).flatMap(dayRows);
  if (span === 'past') return [...past, ...[...earlier].reverse().flatMap(dayRows)];
  const before: Row[] =
    span === 'all' || showEarlier
      ? earlier.flatMap(dayRows)
      : earlier.length
        ? [{ kind: 'earlier', days: earlier.length }]
        : [];
  return [...before, ...past, ...days.flatMap(dayRows)];
}

/** Where the list ends, in words: nothing below it is kept back. */
function Ending({ rows, isPast }: { rows: readonly Row[]; isPast: boolean }) {
  const last = rows.findLast((r) => r.kind === 'entry');
  if (last?.kind !== 'entry') return <Text className="px-4 py-6 text-ink2">Nothing to show here.</Text>;
  return (
    <Text kind="small" className="px-4 py-6">
      Nothing is known {isPast ? 'before' : 'after'} {longDay(last.entry.day)}{' '}
      {civilDate(last.entry.day).year}.
    </Text>
  );
}

const entryRows = (list: readonly AgendaEntry[], day?: number): Row[] =>
  list.map((entry) => ({ kind: 'entry', entry, day }));

function groupRows(
  agenda: Agenda,
  by: 'course' | 'kind',
  span: Props['span'],
  calendarName: (id: string) => string,
): Row[] {
  return grouped(agenda, by, span).flatMap(({ id, entries }): Row[] => [
    {
      kind: 'heading',
      id,
      title: by === 'course' ? calendarName(id) : KIND_GROUP_WORDS[id as ItemKind],
      aside: plural(entries.length, 'item'),
    },
    ...entryRows(entries),
  ]);
}

/** The agenda: all calendars in date order under days that stay in sight. */
export function AgendaList({ agenda, group, span, from, onFinish, onFurther, ...drawing }: Props) {
  const { now, viewer, byId, chosen } = drawing;
  const [showEarlier, setShowEarlier] = useState(false);
  const rows = useMemo(() => {
    const calendarName = (id: string) => byId.get(id)?.name ?? '';
    return group === 'day'
      ? rowsOf(agenda, now, viewer, { showEarlier, span, from })
      : groupRows(agenda, group, span, calendarName);
  }, [agenda, now, viewer, showEarlier, group, span, from, byId]);
  const sticky = useMemo(() => rows.flatMap((r, i) => (r.kind === 'heading' ? [i] : [])), [rows]);
  // A list that begins elsewhere is another list: it stands at its beginning and not where the last one was
  // left.
  const place = `${group} ${span} ${from ?? ''}`;

  const draw = (row: Row) => {
    switch (row.kind) {
      case 'earlier':
        return (
          <View className="items-start px-3 pt-2">
            <Button kind="quiet" onPress={() => setShowEarlier(true)}>
              {`Show ${plural(row.days, 'earlier day')}`}
            </Button>
          </View>
        );
      case 'heading': {
        const heading = (
          <View className="flex-row items-baseline gap-2 bg-paper px-4 pb-1 pt-3">
            <Text kind="title" heading={2} className={row.isPastDue ? 'text-poppy' : ''}>
              {row.title}
            </Text>
            <Text kind="small">{row.aside}</Text>
          </View>
        );
        return row.day === undefined ? (
          heading
        ) : (
          <DayBox day={row.day} id="heading">
            {heading}
          </DayBox>
        );
      }
      case 'free':
        return (
          <View className="px-4 py-2">
            <Text className="text-ink2">Nothing today.</Text>
          </View>
        );
      case 'entry': {
        const dragged = (
          <Draggable entry={row.entry}>
            <SlipRow entry={row.entry} isUnderDay={row.day !== undefined} onFinish={onFinish} {...drawing} />
          </Draggable>
        );
        // What stands under a day is a place of that day too.
        if (row.day === undefined) return dragged;
        return (
          <DayBox day={row.day} id={`row ${entryId(row.entry)}`}>
            {dragged}
          </DayBox>
        );
      }
    }
  };
  return (
    <FlashList
      key={place}
      data={rows}
      renderItem={({ item }) => draw(item)}
      keyExtractor={(row) =>
        row.kind === 'entry' ? entryId(row.entry) : row.kind === 'earlier' ? 'earlier' : row.id
      }
      getItemType={(row) => row.kind}
      stickyHeaderIndices={sticky}
      extraData={chosen}
      onEndReached={() => onFurther(span === 'past' && from === null ? 'back' : 'ahead')}
      onStartReached={() => (span === 'all' && from === null ? onFurther('back') : undefined)}
      ListFooterComponent={
        group === 'day' ? <Ending rows={rows} isPast={span === 'past' && from === null} /> : null
      }
      contentContainerStyle={{ paddingBottom: 32, maxWidth: 860 }}
    />
  );
}
