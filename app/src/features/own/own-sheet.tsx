import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { OccurrenceView } from '@zephyrfield/core/item/occurrence';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { dayIn } from '@zephyrfield/core/time/when';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { useEffect, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import { useKeptBriefs } from '@/data/briefs';
import { Refusal } from '@/data/client';
import { useDraft, writtenFor, type Draft } from '@/data/draft';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import type { Scope } from '@/data/own';
import type { OwnAt } from '@/data/own-at';
import { useCalendars, useOccurrences } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { FormField, FormLongField } from '@/ui/form-field';
import { quickAdd, type QuickReading } from '@zephyrfield/core/item/quick-add';
import { firstName } from '@zephyrfield/core/words/text';
import { ForFollowers } from './for-followers';
import { LineField } from './line-field';
import { Meanwhile } from './meanwhile';
import { differencesOf, joined, type Difference } from './differing';
import { beginFields, fieldsAt, fieldsOfReading, withoutDaysOff } from './begin';
import { PURPOSE_KINDS, itemOf, type Fields } from './form';
import { CalendarChoice, Head, KindChoice, PurposeChoice, WhenFields, WorkFields } from './own-fields';
import { RepeatFields } from './repeat-fields';
import { useOwnWrites } from './use-own-writes';

/** What is written down or changed, over whatever place one is in. */
export function OwnSheet() {
  const { learner } = useLearner()!;
  const { openFor, close } = useDraft();
  const { draft } = useDraft(writtenFor(learner.id));
  const calendars = useCalendars(learner.id);
  if (openFor !== learner.id || !draft || !calendars.data) return null;
  return (
    <Sheet label={draft.editing ? 'Change' : 'Add an item'} roomy onClose={close}>
      <OwnForm
        key={`${learner.id} ${draft.editing?.id ?? draft.day}`}
        draft={draft}
        calendars={calendars.data}
      />
    </Sheet>
  );
}

/** What was written by somebody else while the form was open. */
interface Later {
  theirs: OwnAt;
  isGone: boolean;
  differences: Difference[];
}

const SCOPES: Record<Scope, string> = {
  one: 'this date alone',
  later: 'this date and all later ones',
  all: 'all its dates',
};

function OwnForm({ draft, calendars }: { draft: Draft; calendars: CalendarView[] }) {
  const { learner, learners, viewer } = useLearner()!;
  const now = useNow();
  const { keep, done } = useDraft();
  const { lastUsed } = useDraft(writtenFor(learner.id));
  // What somebody else wrote while this was open takes the place of what it was opened on.
  const [meanwhile, setMeanwhile] = useState<Later | null>(null);
  const editing = meanwhile?.theirs ?? draft.editing;
  const occurrences = useOccurrences(learner.id, now).data ?? NONE;
  const [scope, setScope] = useState<Scope>('one');
  const [line, setLine] = useState('');
  const [read, setRead] = useState<QuickReading | null>(null);
  const kept = useKeptBriefs().data ?? [];
  const [keptId, setKeptId] = useState('');
  const [begun] = useState(() => beginFields(draft, calendars, lastUsed, viewer));
  const beginsIn = begun.calendarId;
  /** The calendar that the line has filled in */
  const [filled, setFilled] = useState(beginsIn);
  const form = useForm<Fields>({ defaultValues: begun });
  const { control, setError: mark } = form;
  const f = useWatch({ control }) as Fields;
  const made = itemOf(f, viewer);
  // What it comes to is told before it has a name and a calendar.
  const shown = itemOf({ ...f, calendarId: f.calendarId || '?', title: f.title || '?' }, viewer).item;
  const calendar = calendars.find((c) => c.id === f.calendarId);
  useEffect(() => keep(learner.id, { ...f }), [keep, learner.id, f]);
  const writes = useOwnWrites({
    learnerId: learner.id,
    fields: f,
    calendar,
    mark: (field, message) => mark(field, { message }),
    onMeanwhile: (theirs, isGone) => {
      const [was, is] = [fieldsAt(editing!, viewer), fieldsAt(theirs, viewer)];
      setMeanwhile({ theirs, isGone, differences: isGone ? [] : differencesOf(f, is, calendars, viewer) });
      if (!isGone) set(joined(was, f, is));
    },
  });

  const set = (fields: Partial<Fields>) => {
    for (const [name, value] of Object.entries(fields)) form.setValue(name as keyof Fields, value as never);
  };
  const lastOf = (purpose: string) => {
    const last = lastUsed[purpose] ?? '';
    return calendars.some((c) => c.id === last) ? last : '';
  };
  const readLine = (text: string) => {
    setLine(text);
    // What a line before this one named, or what it fell back on, is forgotten; what was chosen by hand is not.
    const inForm = form.getValues('calendarId');
    const chosen = inForm === filled ? '' : inForm;
    const calendarOf = (purpose: string) => chosen || lastOf(purpose) || beginsIn;
    const said = quickAdd(text, { now, zone: viewer, calendars });
    setRead(said);
    const fields = fieldsOfReading(said, { zone: viewer, day: draft.day, calendarOf });
    setFilled(fields.calendarId ?? '');
    set(fields);
  };
  const repeated = (item: OwnItem): OwnItem => {
    if (f.skipDaysOff) return withoutDaysOff(item, occurrences, now, viewer);
    return item.repeat ? { ...item, repeat: { ...item.repeat, except: [] } } : item;
  };
  const save = () => {
    form.clearErrors();
    const { item, errors } = made;
    if (item) return writes.save(editing, repeated(item), scope, kept.find((k) => k.id === keptId)?.brief);
    for (const [name, message] of Object.entries(errors)) mark(name as keyof Fields, { message });
  };
  const parts = { control, fields: f };
  return (
    <View className="gap-4">
      <Head
        calendar={calendar}
        whose={learners.length > 1 ? firstName(learner.name) : ''}
        isChange={editing !== null}
        fields={f}
        day={shown?.when ? dayIn(shown.when, viewer) : null}
        today={dayOf(now, viewer)}
      />
      {editing ? null : (
        <LineField
          line={line}
          marks={read?.marks ?? []}
          doubts={read?.doubts ?? []}
          onChange={readLine}
          onKeyDown={(e) => {
            if (e.key === 'Enter') save();
          }}
        />
      )}
      {editing?.item.repeat ? (
        <Choice
          label="Change"
          options={(Object.keys(SCOPES) as Scope[]).map((value) => ({ value, words: SCOPES[value] }))}
          value={scope}
          onChange={(e) => setScope(e.currentTarget.value as Scope)}
        />
      ) : null}
      <PurposeChoice
        value={f.purpose}
        onChange={(purpose) =>
          set({
            purpose,
            kind: PURPOSE_KINDS[purpose][0]!,
            ...(f.calendarId ? {} : { calendarId: lastOf(purpose) }),
          })
        }
      />
      <FormField control={control} name="title" label="What" autoComplete="off" />
      <CalendarChoice
        control={control}
        calendars={calendars}
        learnerId={learner.id}
        zone={viewer.id}
        onMade={(calendarId) => set({ calendarId })}
      />
      <KindChoice {...parts} />
      <WhenFields {...parts} />
      {learner.isSelf && calendar?.handMade ? (
        <ForFollowers
          learnerId={learner.id}
          calendarId={calendar.id}
          day={f.day}
          onDay={(day) => set({ day, lastDay: day })}
        />
      ) : null}
      {f.purpose === 'do' ? <WorkFields control={control} isNew={!editing} /> : null}
      {f.purpose === 'be' ? <FormField control={control} name="place" label="Where" /> : null}
      {editing?.item.repeat && scope === 'one' ? null : (
        <RepeatFields control={control} item={shown && repeated(shown)} viewer={viewer} now={now} />
      )}
      <FormLongField control={control} name="details" label="What is expected" rows={4} />
      {!editing && kept.length ? (
        <Choice
          label="With the brief"
          hint={
            f.repeats === 'no' ? undefined : 'It appears on every date. Fill in what differs on that date.'
          }
          value={keptId}
          onChange={(e) => setKeptId(e.currentTarget.value)}
          options={[{ value: '', words: 'none yet' }, ...kept.map((k) => ({ value: k.id, words: k.name }))]}
        />
      ) : null}
      <ProblemNotice problem={problemIn(writes.error)} />
      {meanwhile ? (
        <Meanwhile
          title={
            meanwhile.isGone
              ? 'This was deleted meanwhile, by somebody else or in another window.'
              : 'This was changed meanwhile, by somebody else or in another window.'
          }
          differences={meanwhile.differences}
          fields={f}
          onTake={set}
        />
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button busy={writes.busy} onPress={save}>
          {editing ? 'Save the change' : calendar ? `Add to ${calendar.name}` : 'Add'}
        </Button>
        {editing ? (
          <Button kind="second" busy={writes.busy} onPress={() => writes.remove(editing, scope)}>
            Delete
          </Button>
        ) : (
          <Button kind="quiet" onPress={() => done(learner.id)}>
            Discard
          </Button>
        )}
      </View>
    </View>
  );
}

const NONE: readonly OccurrenceView[] = [];

function problemIn(error: unknown) {
  if (error instanceof Refusal) return error.problem;
  return error
    ? { title: 'Something went wrong in this page.', remedy: 'What you typed is kept. Try again.' }
    : null;
}
