import { carryForward, placed, type CarriedItem } from '@zephyrfield/core/item/carry-forward';
import type { CalendarView, Learner } from '@zephyrfield/core/api/schemas';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import { formatDate, parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { whenOn } from '@zephyrfield/core/time/shift';
import { dayIn, type When } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { plural } from '@zephyrfield/core/words/text';
import { longDay, shortDay, shortWhen, today } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useNow } from '@/data/now';
import { carryForward as send, useOwnItems, type OwnItems } from '@/data/publish';
import { useSchool } from '@/data/school';
import { Button } from '@/ui/button';
import { DateField } from '@/ui/date-field';
import { Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { CarryRow } from './carry-row';

interface Props {
  own: Learner;
  calendar: CalendarView;
  onClose(): void;
}

const zones = (name: string) => ianaZone(name) ?? UTC;
/** What a term is taken to last where nothing says so, in days. */
const A_TERM = 16 * 7 - 3;

/** Last term’s calendar laid over another term, looked through as a table before it stands. */
export function CarryForm(props: Props) {
  const items = useOwnItems(props.calendar.id);
  if (items.error) return <ProblemNotice problem={problemOf(items.error)} />;
  if (!items.data)
    return <View role="status" aria-label="Loading the items" className="h-24 rounded-lg bg-line" />;
  if (!items.data.length)
    return (
      <View className="gap-3">
        <Text>There is nothing in this calendar yet.</Text>
        <Button kind="second" className="self-start" onPress={props.onClose}>
          Close
        </Button>
      </View>
    );
  return <Laid {...props} items={items.data} />;
}

function Laid({ own, calendar, items, onClose }: Props & { items: OwnItems }) {
  const zone = zones(calendar.zone);
  const now = useNow();
  const day = today(now, zone);
  const days = items.flatMap(({ item }) => (item.when ? [dayIn(item.when, zone)] : []));
  const [firstDay, lastDay] = [Math.min(day, ...days), days.length ? Math.max(...days) : day];
  const school = useSchool(own, firstDay - 7, day + 400);
  // A term that begins after all that is in it is the one it is laid over; else one types when it begins.
  const known = school.term && parseDate(school.term.start) > lastDay ? school.term : null;
  const [typed, setTyped] = useState({ was: '', begins: '', ends: '' });
  const was = typed.was || formatDate(startOfWeek(firstDay, 1));
  const begins = typed.begins || known?.start || formatDate(startOfWeek(day + 7, 1));
  const ends = typed.ends || known?.end || formatDate(parseDate(begins) + A_TERM);
  const [name, setName] = useState(calendar.name);
  const [out, setOut] = useState<ReadonlySet<string> | null>(null);
  const [moved, setMoved] = useState<Readonly<Record<string, string>>>({});
  const [key] = useState(newKey);
  const carried = useMemo(() => {
    const at = (text: string) => startOfWeek(parseDate(text), 1);
    if ([was, begins, ends].some((text) => Number.isNaN(parseDate(text)))) return [];
    return carryForward(items, {
      before: { firstWeek: at(was), lastDay, daysOff: school.daysOff },
      after: { firstWeek: at(begins), lastDay: parseDate(ends), daysOff: school.daysOff },
      zone,
      zones,
    });
  }, [items, was, begins, ends, lastDay, school.daysOff, zone]);
  const rows = carried.map((row) => onDay(row, moved[row.from], zone));
  const isOver = ({ item: { when, repeat } }: CarriedItem) =>
    when !== null && !repeat && dayIn(when, zone) < day;
  const left =
    out ?? new Set(rows.filter((r) => isOver(r) || r.doubt?.kind === 'afterTerm').map((r) => r.from));
  const taken = rows.filter((r) => !left.has(r.from));
  const save = useMutation({
    mutationFn: () =>
      send(own.id, calendar.id, {
        calendar: {
          name,
          kind: calendar.kind,
          category: calendar.category,
          zone: calendar.zone,
          key,
          ...suggestFlag(name, [calendar]),
          colour: calendar.colour,
        },
        items: taken.map(({ from, item, dates }) => ({ from, item, dates })),
      }),
    onSuccess: onClose,
  });
  const toggle = (id: string) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setOut(next);
  };
  return (
    <View className="gap-4 border-t border-dashed border-line pt-3">
      <Field
        label="What the new calendar is called"
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <View className="gap-3 wide:flex-row">
        <View className="flex-1">
          <DateField
            label="That term’s first week"
            value={was}
            onChange={(value) => setTyped({ ...typed, was: value })}
          />
        </View>
        <View className="flex-1">
          <DateField
            label="New term’s first week"
            value={begins}
            onChange={(value) => setTyped({ ...typed, begins: value })}
          />
        </View>
        <View className="flex-1">
          <DateField
            label="Its last day"
            value={ends}
            onChange={(value) => setTyped({ ...typed, ends: value })}
          />
        </View>
      </View>
      <Text kind="small">{daysOffWords(school.daysOff, parseDate(begins), parseDate(ends))}</Text>
      <View role="list" aria-label="What is carried forward">
        {rows.map((row) => (
          <CarryRow
            key={row.from}
            row={row}
            was={shownWhen(items.find((i) => i.id === row.from)!.item.when, zone)}
            zone={zone}
            isOver={isOver(row)}
            isTaken={!left.has(row.from)}
            onToggle={() => toggle(row.from)}
            onDay={(value) => setMoved({ ...moved, [row.from]: value })}
          />
        ))}
      </View>
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} disabled={!taken.length || !name.trim()} onPress={() => save.mutate()}>
          {`Carry ${plural(taken.length, 'item')} forward`}
        </Button>
        <Button kind="second" onPress={onClose}>
          Cancel
        </Button>
      </View>
    </View>
  );
}

/** A row on the day that a person has chosen for it, which settles what was doubtful. */
function onDay(row: CarriedItem, chosen: string | undefined, zone: typeof UTC): CarriedItem {
  if (!chosen || Number.isNaN(parseDate(chosen)) || !row.item.when || row.item.repeat) return row;
  return { ...row, item: placed(row.item, whenOn(row.item.when, parseDate(chosen), zone)), doubt: null };
}

const shownWhen = (when: When | null, zone: typeof UTC): string =>
  when === null ? 'no date' : shortWhen(when, zone);

function daysOffWords(
  daysOff: readonly { from: number; to: number; name: string }[],
  first: number,
  last: number,
): string {
  const inTerm = [...new Map(daysOff.map((d) => [`${d.from} ${d.to}`, d])).values()].filter(
    (d) => d.to >= first && d.from <= last,
  );
  if (!inTerm.length) return 'No days off are known in this term. Look through the dates yourself.';
  const words = inTerm.map((d) =>
    d.from === d.to ? `${d.name}, ${longDay(d.from)}` : `${d.name}, ${shortDay(d.from)} to ${shortDay(d.to)}`,
  );
  return `Days off: ${words.join(' · ')}.`;
}
