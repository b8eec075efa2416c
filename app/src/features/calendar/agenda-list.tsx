import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Zone } from '@zephyrfield/core/time/zone';
import type { Agenda, AgendaDay, AgendaEntry } from '@zephyrfield/core/view/agenda';
import { daysAway, longDay, plural, today } from '@zephyrfield/core/view/words';
import { civilDate } from '@zephyrfield/core/time/civil';
import { FlashList } from '@shopify/flash-list';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { Slip } from '@/ui/slip';
import { Text } from '@/ui/text';
import { slipDetail, slipNote, slipTime, spokenSlip } from './words';

interface Props {
  agenda: Agenda;
  calendars: readonly CalendarView[];
  now: number;
  viewer: Zone;
  chosen: { id: string; key: string } | null;
  onOpen(entry: AgendaEntry): void;
  onFinish?: ((entry: AgendaEntry) => void) | undefined;
}

type Row =
  { kind: 'earlier'; days: number } | { kind: 'heading'; id: string; title: string; aside: string; isPastDue?: boolean } | { kind: 'free'; id: string } | { kind: 'entry'; entry: AgendaEntry };

const idOf = ({ occurrence }: AgendaEntry) => `${occurrence.itemId} ${occurrence.key}`;

function rowsOf({ pastDue, earlier, days }: Agenda, now: number, viewer: Zone, showEarlier: boolean): Row[] {
  const day0 = today(now, viewer);
  const thisYear = civilDate(day0).year;
  const entries = (list: AgendaEntry[]): Row[] => list.map((entry) => ({ kind: 'entry', entry }));
  const dayRows = ({ day, entries: list }: AgendaDay): Row[] => [
    { kind: 'heading', id: String(day), title: longDay(day, thisYear), aside: daysAway(day, day0) },
    ...(list.length ? entries(list) : [{ kind: 'free', id: `free ${day}` } as Row]),
  ];
  const past: Row[] = pastDue.length ? [{ kind: 'heading', id: 'past due', title: 'Past due', aside: plural(pastDue.length, 'item'), isPastDue: true }, ...entries(pastDue)] : [];
  return [...(earlier.length && !showEarlier ? [{ kind: 'earlier', days: earlier.length } as Row] : []), ...(showEarlier ? earlier.flatMap(dayRows) : []), ...past, ...days.flatMap(dayRows)];
}

/** The agenda: all calendars in date order under days that stay in sight. */
export function AgendaList({ agenda, calendars, now, viewer, chosen, onOpen, onFinish }: Props) {
  const [showEarlier, setShowEarlier] = useState(false);
  const rows = useMemo(() => rowsOf(agenda, now, viewer, showEarlier), [agenda, now, viewer, showEarlier]);
  const sticky = useMemo(() => rows.flatMap((r, i) => (r.kind === 'heading' ? [i] : [])), [rows]);
  const byId = useMemo(() => new Map(calendars.map((c) => [c.id, c])), [calendars]);
  const day0 = today(now, viewer);

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
      case 'heading':
        return (
          <View className="flex-row items-baseline gap-2 bg-paper px-4 pb-1 pt-3">
            <Text kind="title" heading={2} className={row.isPastDue ? 'text-poppy' : ''}>
              {row.title}
            </Text>
            <Text kind="small">{row.aside}</Text>
          </View>
        );
      case 'free':
        return (
          <View className="px-4 py-2">
            <Text className="text-ink2">Nothing today.</Text>
          </View>
        );
      case 'entry': {
        const { entry } = row;
        const { occurrence } = entry;
        const calendar = byId.get(occurrence.calendarId);
        return (
          <View className="px-4 py-1">
            <Slip
              shape={entry.shape}
              colour={calendar?.colour ?? 'slate'}
              flag={calendar?.flag ?? { shape: 'square', pattern: 'plain' }}
              calendar={calendar?.name ?? ''}
              title={occurrence.title}
              detail={slipDetail(entry, viewer)}
              time={slipTime(entry, viewer)}
              note={slipNote(entry, day0)}
              urgency={entry.urgency}
              spoken={spokenSlip(entry, calendar, viewer)}
              chosen={chosen?.id === occurrence.itemId && chosen.key === occurrence.key}
              onOpen={() => onOpen(entry)}
              onFinish={onFinish && (() => onFinish(entry))}
            />
          </View>
        );
      }
    }
  };
  return (
    <FlashList
      data={rows}
      renderItem={({ item }) => draw(item)}
      keyExtractor={(row) => (row.kind === 'entry' ? idOf(row.entry) : row.kind === 'earlier' ? 'earlier' : row.id)}
      getItemType={(row) => row.kind}
      stickyHeaderIndices={sticky}
      extraData={chosen}
      contentContainerStyle={{ paddingBottom: 32, maxWidth: 860 }}
    />
  );
}
