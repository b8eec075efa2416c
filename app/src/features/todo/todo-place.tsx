import { late } from '@/data/late';
import { suffices } from '@zephyrfield/core/item/access';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { itemPath } from '@zephyrfield/core/notify/links';
import { partHidden } from '@zephyrfield/core/view/hidden';
import { placesAfter } from '@zephyrfield/core/todo/order';
import { BUCKET_WORDS, todoBuckets, type Bucket, type TodoEntry } from '@zephyrfield/core/todo/buckets';
import { daysAway, dueDay, hoursWords, shortDay, today as dayOf } from '@zephyrfield/core/words/when';
import { wholeSlip } from '@zephyrfield/core/view/slips';
import { plural } from '@zephyrfield/core/words/text';
import { router, useLocalSearchParams } from '@/router';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import { useMemo, useState, type ComponentType } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { useUndo } from '@/data/undo';
import { useDraft } from '@/data/draft';
import { useShown, useSettings } from '@/data/learner';
import { changeLayer, finish, keepOpen } from '@/data/layer';
import { useNow } from '@/data/now';
import { useCalendars, useOccurrences, useUndated } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Button, IconButton } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Contours } from '@/ui/contours';
import { DrawAside } from '@/ui/draw-aside';
import { Choice } from '@/ui/field';
import { HiddenHere } from '@/ui/hidden-here';
import { lazyComponent } from '@/ui/lazy';
import { ProblemNotice } from '@/ui/notice';
import { Slip } from '@/ui/slip';
import { followSlip } from '@/ui/slip-focus';
import type { SortableProps } from '@/ui/sortable';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { Chosen } from './chosen';

declare module '@/data/late' {
  interface LateParts {
    Sortable: ComponentType<SortableProps<TodoEntry>>;
  }
}

/** All there is to do over all courses, by when: one list that is ticked off from the top. */
export function TodoPlace() {
  const { learner, viewer } = useShown()!;
  const { firstDay } = useSettings();
  const now = useNow();
  const calendars = useCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const undated = useUndated(learner.id);
  const hiddenIds = useScreen((s) => s.hidden);
  const [show, setShow] = useState<'open' | 'finished'>('open');
  const asked = useLocalSearchParams<{ calendar?: string; choose?: string }>();
  const [calendarId, setCalendarId] = useState(asked.calendar ?? '');
  const [selecting, setSelecting] = useState<ReadonlySet<string> | null>(
    asked.choose === undefined ? null : new Set(),
  );
  const byId = useMemo(() => new Map(calendars.data?.map((c) => [c.id, c])), [calendars.data]);
  const all = useMemo(
    () => [...(occurrences.data ?? []), ...(undated.data ?? [])],
    [occurrences.data, undated.data],
  );
  const { buckets, held } = useMemo(() => {
    const options = { now, viewer, firstDay, show, calendarId: calendarId || null };
    // Who asks for one calendar wants to see it, hidden or not.
    const { shown, held } = partHidden(all, new Set(hiddenIds.filter((id) => id !== calendarId)));
    return {
      buckets: todoBuckets(shown, options),
      held: todoBuckets(held, options).flatMap((b) => b.entries.map((e) => e.occurrence)),
    };
  }, [all, now, viewer, firstDay, show, calendarId, hiddenIds]);
  const failure = calendars.error ?? occurrences.error ?? undated.error;
  const mayTick = suffices(learner.access, 'tick');
  const mayEdit = suffices(learner.access, 'edit');
  const inSight = buckets.reduce((sum, b) => sum + b.entries.length, 0);
  const count = buckets.reduce((sum, b) => sum + (b.name === 'closed' ? 0 : b.entries.length), 0);
  const chosen = selecting
    ? buckets.flatMap((b) => b.entries.filter((e) => selecting.has(keyOf(e.occurrence))))
    : [];
  const order = buckets.flatMap((b) => b.entries.map((e) => keyOf(e.occurrence)));
  /** Finishes one, and has the focus go on to the one after it. */
  const finishOne = ({ occurrence }: TodoEntry) => {
    const at = order.indexOf(keyOf(occurrence));
    followSlip([...order.slice(at + 1), ...order.slice(0, at).reverse()]);
    void finish(learner.id, occurrence, !occurrence.finished);
  };
  const slipOf = (entry: TodoEntry, bucketName: Bucket['name']) => {
    const { occurrence } = entry;
    const calendar = byId.get(occurrence.calendarId);
    const whole = wholeSlip(entry, calendar, viewer, { today: dayOf(now, viewer), isUnderDay: false });
    const id = keyOf(occurrence);
    const aim = occurrence.aim && dueDay(occurrence.aim, viewer);
    const isAim = aim !== null && entry.by === aim && aim !== entry.day;
    return (
      <Slip
        {...whole}
        detail={[
          isAim ? `aim ${shortDay(aim)}` : null,
          bucketName === 'prepare'
            ? `${shortDay(entry.day)}, ${daysAway(entry.day, dayOf(now, viewer))}`
            : null,
          occurrence.estimate ? hoursWords(occurrence.estimate) : null,
          whole.detail,
        ]
          .filter(Boolean)
          .join(' · ')}
        chosen={selecting?.has(id) ?? false}
        onOpen={() => {
          if (!selecting) return router.push(itemPath(occurrence.itemId, occurrence.recurrenceId));
          const next = new Set(selecting);
          if (!next.delete(id)) next.add(id);
          setSelecting(next);
        }}
        onFinish={mayTick && !selecting && bucketName !== 'settle' ? () => finishOne(entry) : undefined}
      />
    );
  };
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[760px] px-4 pb-10 pt-3">
      <PlaceHead
        title="To-do"
        says={
          <View className="flex-row items-center gap-x-2">
            <Text className="text-ink2">{occurrences.data ? `${count} ${show}` : ' '}</Text>
            {mayTick && show === 'open' ? (
              <Pressable
                role="button"
                aria-pressed={selecting !== null}
                onPress={() => setSelecting(selecting ? null : new Set())}
                className="min-h-touch justify-center px-1"
              >
                <Text kind="label" className="text-lagoon underline">
                  {selecting ? 'Done' : mayEdit ? 'Choose or reorder' : 'Choose'}
                </Text>
              </Pressable>
            ) : null}
          </View>
        }
      >
        {mayEdit ? (
          <IconButton
            icon={PencilLine}
            label="Add an item"
            onPress={() => useDraft.getState().begin(learner.id, {})}
          />
        ) : null}
      </PlaceHead>
      <View className="flex-row flex-wrap items-center gap-x-4 pt-1">
        <Choices<'open' | 'finished'> label="Which" all={SHOWN} value={show} onChange={setShow} />
        <View className="min-w-[140px] flex-1">
          <Choice
            label="Calendar"
            isLabelHeard
            value={calendarId}
            onChange={(e) => setCalendarId(e.currentTarget.value)}
            options={[
              { value: '', words: 'all calendars' },
              ...(calendars.data ?? []).map((c) => ({ value: c.id, words: c.name })),
            ]}
          />
        </View>
      </View>
      <HiddenHere held={held} nameOf={(id) => byId.get(id)?.name ?? ''} />
      {selecting ? (
        <Chosen
          entries={chosen}
          calendars={calendars.data ?? []}
          learner={learner}
          viewer={viewer}
          most={inSight}
          onAll={() =>
            setSelecting(
              new Set(
                chosen.length === inSight
                  ? []
                  : buckets.flatMap((b) => b.entries.map((e) => keyOf(e.occurrence))),
              ),
            )
          }
          onDone={() => setSelecting(null)}
        />
      ) : null}
      <ProblemNotice problem={failure && problemOf(failure)} />
      {occurrences.isPending ? (
        <View role="status" aria-label="Loading the list" className="mt-4 h-24 rounded-xl bg-sheet" />
      ) : null}
      {buckets.map((bucket) =>
        selecting && mayEdit && bucket.name !== 'settle' ? (
          <BucketPart key={bucket.name} bucket={bucket} whole>
            {(entries) => (
              <Sortable
                items={entries}
                idOf={(e) => keyOf(e.occurrence)}
                nameOf={(e) => e.occurrence.title}
                onMove={(from, to) => void reorder(learner.id, bucket.entries, from, to)}
              >
                {(entry) => slipOf(entry, bucket.name)}
              </Sortable>
            )}
          </BucketPart>
        ) : (
          <BucketPart key={bucket.name} bucket={bucket}>
            {(entries) =>
              entries.map((entry) => {
                const { occurrence } = entry;
                const slip = slipOf(entry, bucket.name);
                const done = () => finishOne(entry);
                if (bucket.name === 'settle' && mayTick && !selecting)
                  return (
                    <Settle
                      key={keyOf(occurrence)}
                      slip={slip}
                      title={occurrence.title}
                      onYes={done}
                      onNo={() => void keepOpen(learner.id, occurrence)}
                    />
                  );
                return mayTick && !selecting ? (
                  <DrawAside
                    key={keyOf(occurrence)}
                    words={occurrence.finished ? 'Not finished' : 'Finish'}
                    onAway={done}
                  >
                    {slip}
                  </DrawAside>
                ) : (
                  <View key={keyOf(occurrence)}>{slip}</View>
                );
              })
            }
          </BucketPart>
        ),
      )}
      {inSight === 0 && occurrences.data && undated.data ? (
        <View className="gap-4 pt-6">
          <Text>{show === 'open' ? 'Nothing left to do.' : 'Nothing is finished yet.'}</Text>
          <Contours height={140} />
        </View>
      ) : null}
    </ScrollView>
  );
}

const SHOWN: readonly (readonly ['open' | 'finished', string])[] = [
  ['open', 'open'],
  ['finished', 'finished'],
];

const Sortable = lazyComponent<SortableProps<TodoEntry>>(late('Sortable'));

/** Puts an entry in another place of its bucket, as one step. */
function reorder(learnerId: string, entries: readonly TodoEntry[], from: number, to: number): Promise<void> {
  const words = `${entries[from]!.occurrence.title} moved ${to < from ? 'up' : 'down'}`;
  const places = placesAfter(
    entries.map((e) => e.occurrence),
    from,
    to,
  );
  return useUndo
    .getState()
    .bundle(words, () =>
      Promise.all(places.map(({ item, position }) => changeLayer(learnerId, item, { position }, { words }))),
    );
}

/** A long bucket begins with so many: a list of a hundred is no list to begin with. */
const MOST = 8;

function BucketPart({
  bucket,
  whole = false,
  children,
}: {
  bucket: Bucket;
  whole?: boolean;
  children(entries: readonly TodoEntry[]): React.ReactNode;
}) {
  const { name, entries } = bucket;
  const [all, setAll] = useState(false);
  const shown = all || whole || entries.length <= MOST + 2 ? entries : entries.slice(0, MOST);
  return (
    <View role="group" aria-label={BUCKET_WORDS[name]} className="gap-2 pt-5">
      <View className="flex-row items-baseline justify-between gap-2">
        <Text kind="title" heading={2} className={name === 'pastDue' ? 'text-poppy' : ''}>
          {BUCKET_WORDS[name]}
        </Text>
        <Text kind="small">{plural(entries.length, 'item')}</Text>
      </View>
      {name === 'settle' ? (
        <Text kind="small">
          Paper and work that is not handed in leave no trace here. Say once whether it is done.
        </Text>
      ) : null}
      {children(shown)}
      {shown.length < entries.length ? (
        <Button kind="quiet" onPress={() => setAll(true)} className="-ml-4 self-start">
          {`${entries.length - shown.length} more`}
        </Button>
      ) : null}
    </View>
  );
}

function Settle({
  slip,
  title,
  onYes,
  onNo,
}: {
  slip: React.ReactNode;
  title: string;
  onYes(): void;
  onNo(): void;
}) {
  return (
    <View>
      {slip}
      <View className="flex-row">
        <Button kind="quiet" onPress={onYes} aria-label={`Yes, ${title} is done`}>
          Yes, done
        </Button>
        <Button kind="quiet" onPress={onNo} aria-label={`Not yet: ${title} is still to do`}>
          Not yet
        </Button>
      </View>
    </View>
  );
}
