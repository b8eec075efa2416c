import { suffices } from '@zephyrfield/core/item/access';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { sittingEntries, sittingId, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import type { PlannedSitting } from '@zephyrfield/core/plan/run-up';
import { itemPath } from '@zephyrfield/core/notify/links';
import { clockOf, minuteOfClock } from '@zephyrfield/core/time/minute';
import { parseDate } from '@zephyrfield/core/time/civil';
import { hoursWords, longDay, minuteWords, type Viewer } from '@zephyrfield/core/words/when';
import Check from 'lucide-react-native/icons/check';
import Timer from 'lucide-react-native/icons/timer';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { router } from '@/router';
import { useLearner, useOwnClock } from '@/data/learner';
import { useNow } from '@/data/now';
import { useOpenSitting } from '@/data/open-sitting';
import { tellSitting, useRunUps } from '@/data/plan';
import { changeLayer } from '@/data/layer';
import { useCalendars, useOccurrences, useTimer } from '@/data/queries';
import { changeSitting } from '@/data/sittings';
import { Button } from '@/ui/button';
import { DateField, SavedPicker, TimeField } from '@/ui/date-field';
import { Field } from '@/ui/field';
import { SavedField } from '@/ui/saved-field';
import { Sheet } from '@/ui/sheet';
import { ItemHead } from '@/ui/item-head';
import { Text } from '@/ui/text';

/** The sitting that is open, wherever it was opened from. */
export function SittingSheet() {
  const { learner } = useLearner()!;
  const viewer = useOwnClock(learner);
  const now = useNow();
  const runUps = useRunUps(learner.id);
  const occurrences = useOccurrences(learner.id, now).data;
  const calendars = useCalendars(learner.id).data;
  const { id, close } = useOpenSitting();
  const entry = useMemo(
    () => sittingEntries({ occurrences: occurrences ?? [], runUps }).find((e) => sittingId(e) === id),
    [occurrences, runUps, id],
  );
  if (!entry) return null;
  const calendar = calendars?.find((c) => c.id === entry.occurrence.calendarId);
  const { access } = learner;
  return (
    <Opened
      key={id}
      learnerId={learner.id}
      viewer={viewer}
      entry={entry}
      calendar={calendar}
      mayTick={suffices(access, 'tick')}
      mayEdit={suffices(access, 'edit')}
      onClose={close}
    />
  );
}

interface Props {
  learnerId: string;
  viewer: Viewer;
  entry: SittingEntry;
  calendar: CalendarView | undefined;
  mayTick: boolean;
  mayEdit: boolean;
  onClose(): void;
}

/** One sitting: whether it was kept, and where it lies. */
function Opened({ learnerId, viewer, entry, calendar, mayTick, mayEdit, onClose }: Props) {
  const { sitting, occurrence, name } = entry;
  const now = useNow();
  const timer = useTimer(learnerId).data;
  const isMine = timer?.itemId === occurrence.itemId && timer.recurrenceId === occurrence.recurrenceId;
  const running = timer && isMine ? Math.max(0, Math.round((now - Date.parse(timer.since)) / 60_000)) : null;
  const [typed, setTook] = useState<string | null>(null);
  // The timer says it, where it runs; else what was planned.
  const took = typed ?? String(sitting.took ?? running ?? sitting.minutes);
  const minutes = Math.round(Number(took));
  const isFine = minutes >= 0 && minutes <= 1440;
  const tell = (state: PlannedSitting['state'], words: string, taken: number | null = null) => {
    if (state === 'done' && running !== null) void changeLayer(learnerId, occurrence, { timer: false });
    void tellSitting(
      learnerId,
      occurrence,
      sitting.key,
      { state, took: taken },
      `${occurrence.title}: ${words}`,
    );
    onClose();
  };
  const put = (change: Partial<PlannedSitting>, words: string) =>
    void changeSitting(learnerId, sittingId(entry), change, `${occurrence.title}: ${words}`);
  return (
    <Sheet label={`Sitting of ${occurrence.title}`} onClose={onClose}>
      <View className="gap-5">
        <ItemHead calendar={calendar} title={occurrence.title}>
          <Text className="text-ink2">
            {name ? `Sitting ${name.at} of ${name.of}${name.part ? ` · ${name.part}` : ''}` : 'Not done'}
          </Text>
          <Text>
            <Text kind="strong">{longDay(parseDate(sitting.day))}</Text>
            {`, ${minuteWords(sitting.from % 1440, viewer.hours)} to ${minuteWords((sitting.from + sitting.minutes) % 1440, viewer.hours)} · ${hoursWords(sitting.minutes)}`}
          </Text>
        </ItemHead>
        {sitting.state === 'planned' ? (
          mayTick ? (
            <View className="gap-3">
              <View className="w-[140px]">
                <Field
                  label="Minutes it took"
                  inputMode="numeric"
                  value={took}
                  error={isFine ? undefined : 'Between 0 and 1440.'}
                  onChange={(e) => setTook(e.currentTarget.value)}
                />
              </View>
              <View className="flex-row flex-wrap gap-3">
                <Button icon={Check} disabled={!isFine} onPress={() => tell('done', 'sitting done', minutes)}>
                  Done
                </Button>
                <Button kind="second" onPress={() => tell('missed', 'sitting not done')}>
                  Not done
                </Button>
                {running === null ? (
                  <Button
                    kind="quiet"
                    icon={Timer}
                    onPress={() =>
                      void changeLayer(
                        learnerId,
                        occurrence,
                        { timer: true },
                        { words: `${occurrence.title}: timer started`, back: { timer: false } },
                      )
                    }
                  >
                    Start the timer
                  </Button>
                ) : (
                  <Text kind="small" className="content-center">{`the timer runs, ${running} min`}</Text>
                )}
              </View>
            </View>
          ) : null
        ) : (
          <View className="gap-2">
            <Text kind="strong" className={sitting.state === 'done' ? 'text-fern' : 'text-ink2'}>
              {sitting.state === 'done'
                ? `Done${sitting.took === null ? '' : `, it took ${hoursWords(sitting.took)}`}`
                : 'It was not done.'}
            </Text>
            {mayTick ? (
              <Button
                kind="second"
                className="self-start"
                onPress={() => tell('planned', 'sitting open again')}
              >
                Open again
              </Button>
            ) : null}
          </View>
        )}
        {mayEdit && sitting.state === 'planned' ? (
          <View role="group" aria-label="Where it lies" className="gap-3 border-t border-line pt-4">
            <Text kind="lead" heading={3}>
              Put it elsewhere
            </Text>
            <SavedPicker
              as={DateField}
              label="Evening"
              isRequired
              value={sitting.day}
              onSave={(day) => day && put({ day, pinned: true }, `sitting on ${longDay(parseDate(day))}`)}
            />
            <View className="flex-row gap-3">
              <View className="min-w-0 flex-1">
                <SavedPicker
                  as={TimeField}
                  label="From"
                  isRequired
                  value={clockOf(sitting.from)}
                  onSave={(text) => {
                    const from = minuteOfClock(text);
                    if (from !== null)
                      put({ from, pinned: true }, `sitting at ${minuteWords(from, viewer.hours)}`);
                  }}
                />
              </View>
              <View className="min-w-0 flex-1">
                <SavedField
                  label="Minutes long"
                  inputMode="numeric"
                  value={String(sitting.minutes)}
                  onSave={(text) => {
                    const long = Math.round(Number(text));
                    if (long >= 5 && long <= 480)
                      put({ minutes: long, pinned: true }, `sitting of ${hoursWords(long)}`);
                  }}
                />
              </View>
            </View>
            <View className="flex-row flex-wrap items-center gap-x-3">
              <Text kind="small" className="min-w-0 flex-1">
                {sitting.pinned ? 'You put it here: a new plan leaves it alone.' : 'A new plan may move it.'}
              </Text>
              <Button
                kind="quiet"
                onPress={() =>
                  put({ pinned: !sitting.pinned }, sitting.pinned ? 'sitting may move' : 'sitting stays')
                }
              >
                {sitting.pinned ? 'Let it move' : 'Keep it here'}
              </Button>
            </View>
          </View>
        ) : null}
        <Button
          kind="quiet"
          className="-ml-4 self-start"
          onPress={() => {
            onClose();
            router.push(itemPath(occurrence.itemId, occurrence.recurrenceId));
          }}
        >
          {`Open ${occurrence.title}`}
        </Button>
      </View>
    </Sheet>
  );
}
