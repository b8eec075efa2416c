import type { OutlineHead, OutlineView } from '@zephyrfield/core/api/outlines';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Standing } from '@zephyrfield/core/outline/add';
import { formatDate } from '@zephyrfield/core/time/civil';
import { dayIn } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { minuteOfDay, today as todayOf } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useReducer, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { router } from '@/router';
import { problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useOutlineDrafts } from '@/data/outline-draft';
import { useOwnItems, type OwnItems } from '@/data/publish';
import { Notice, ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { addRows, wordsOf } from './add-rows';
import { draftOf, dropDraft, keepDraft } from './draft';
import type { For } from './for-fields';
import { LookHead } from './look-head';
import { PageView } from './page-view';
import { RowTools } from './row-tools';
import { rowsOf, step, type Row } from './rows';
import { rowOfSelection } from './selection';
import { SomeRows } from './some-rows';

interface Props {
  view: OutlineView;
  value: For;
  calendars: readonly CalendarView[];
  /** An item whose place is shown */
  item: string;
  /** The older outline that this takes the place of */
  older: OutlineHead | null;
  /** So many files wait for their turn */
  more: number;
  isReading: boolean;
  problem: Parameters<typeof ProblemNotice>[0]['problem'];
  onChange(to: Partial<For>): void;
  onNext(): void;
}

/** Gives what is in a calendar already, on its clock. */
function standingOf(items: OwnItems, zone: typeof UTC): Standing[] {
  return items.map(({ id, item: { title, when } }) => ({
    itemId: id,
    title,
    date: when && formatDate(dayIn(when, zone)),
    minute: when?.kind === 'instant' ? minuteOfDay(Date.parse(when.at), zone) : null,
  }));
}

/** What was found, beside the outline it was found in. */
export function Look(props: Props) {
  const { value, calendars, view, older } = props;
  const calendar = calendars.find((c) => c.id === value.calendarId);
  const items = useOwnItems(value.calendarId, value.calendarId !== '');
  const zone = ianaZone(calendar?.zone ?? value.zone) ?? UTC;
  if (value.calendarId && !items.data)
    return items.error ? (
      <ProblemNotice problem={problemOf(items.error)} />
    ) : (
      <View role="status" aria-label="Loading the calendar" className="m-4 h-32 rounded-xl bg-line" />
    );
  return (
    <Looked
      {...props}
      there={standingOf(items.data ?? [], zone)}
      isKept={view.calendarId !== null && !older}
    />
  );
}

function Looked({
  view,
  value,
  calendars,
  item,
  older,
  more,
  isReading,
  problem,
  onChange,
  onNext,
  there,
  isKept,
}: Props & { there: Standing[]; isKept: boolean }) {
  const { learner } = useLearner()!;
  const isWide = useIsWide();
  const [sheet, take] = useReducer(step, { rows: [], chosen: [], past: [] });
  const [pressed, setShown] = useState<string | null>(null);
  const [shows, setShows] = useState({ topics: false, known: false });
  const day = formatDate(todayOf(useNow(), useLearner()!.viewer));
  const [key] = useState(newKey);
  // What was changed before the page was left.
  const [draft] = useState(() => draftOf(view.id)?.rows ?? []);
  const known = there.map((t) => t.itemId).join();
  const added = older ? older.items : isKept ? view.items : null;
  useEffect(() => {
    take({
      do: 'begin',
      rows: rowsOf(view, { added, there, before: sheet.rows.length ? sheet.rows : draft, today: day }),
    });
    // As it is read, and for another calendar: not at each step.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, known]);
  const isFull = useOutlineDrafts((s) => s.isFull);
  const isWaiting = view.calendarId === null;
  useEffect(() => {
    if (isWaiting && sheet.rows.length) keepDraft(view.id, value, sheet.rows);
  }, [isWaiting, view.id, value, sheet.rows]);
  // Come from an item, its place is shown, until one looks at another.
  const place = view.items.find((i) => i.itemId === item)?.at;
  const asked = place && sheet.rows.find(({ at }) => keyOf(at) === keyOf(place));
  const shown = pressed ?? asked?.id ?? null;
  const add = useMutation({
    mutationFn: () =>
      addRows({ learner, calendars }, view, sheet.rows, value, { key, replaces: older?.id ?? null }),
    onSuccess: (calendarId) => {
      dropDraft(view.id);
      if (more) return onNext();
      router.replace(`/calendar?view=month&calendar=${calendarId}`);
    },
  });
  const isTopic = (r: Row) => r.isTopic && !r.ticked && !r.isOwn && r.state !== 'known';
  const isKnown = (r: Row) => r.state === 'known' && !isKept;
  const rows = sheet.rows.filter((r) => (shows.topics || !isTopic(r)) && (shows.known || !isKnown(r)));
  const ticked = sheet.rows.filter((r) => r.ticked && r.state !== 'known');
  const head = (
    <LookHead
      {...{ view, rows, value, calendars, more, onChange }}
      isFixed={isKept || older !== null}
      words={wordsOf(sheet.rows)}
      mayAdd={ticked.length > 0}
      isAdding={add.isPending}
      problem={problem ?? (add.error && problemOf(add.error))}
      onAdd={() => add.mutate()}
    />
  );
  const table = (
    <View className="gap-3">
      {!rows.length && !isReading ? (
        <Text>
          No date was found. Look whether the term is right, or mark a place in the outline and add it.
        </Text>
      ) : null}
      <SomeRows
        rows={rows}
        chosen={sheet.chosen}
        label="What was found"
        shown={shown}
        onStep={take}
        onRow={setShown}
      />
      {isFull ? (
        <Notice kind="warning" title="This device has no room left.">
          What you change here is kept only while this page is open. Add it before you leave.
        </Notice>
      ) : null}
      <RowTools
        sheet={sheet}
        topics={sheet.rows.filter(isTopic).length}
        known={sheet.rows.filter(isKnown).length}
        shows={shows}
        onShows={setShows}
        onStep={take}
        marked={() => rowOfSelection(value)}
      />
    </View>
  );
  const page = (
    <PageView
      page={view.page}
      rows={sheet.rows}
      shown={shown}
      onRow={(id) => {
        const row = sheet.rows.find((r) => r.id === id)!;
        // A row that is kept apart is shown with its mark.
        setShows({ topics: shows.topics || isTopic(row), known: shows.known || isKnown(row) });
        setShown(id);
      }}
    />
  );
  return isWide ? (
    <View className="flex-1 flex-row gap-6 px-6 pb-4 pt-3">
      <View className="w-[34%] min-w-[320px] gap-3">
        <PlaceHead title={isKept ? 'The outline' : 'Read an outline'} />
        <View className="min-h-0 flex-1">{page}</View>
      </View>
      <View className="flex-1 gap-3">
        {head}
        <ScrollView className="flex-1" contentContainerClassName="pb-10">
          {table}
        </ScrollView>
      </View>
    </View>
  ) : (
    <ScrollView
      className="flex-1"
      contentContainerClassName="gap-5 px-4 pb-10 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title={isKept ? 'The outline' : 'Read an outline'} />
      {head}
      {table}
      {page}
    </ScrollView>
  );
}

const keyOf = ({ block, row, cell, from }: Row['at']) => `${block} ${row} ${cell} ${from}`;
