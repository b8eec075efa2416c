import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { timesOf } from '@zephyrfield/core/item/own';
import { quickAdd } from '@zephyrfield/core/item/quick-add';
import { HAND_IN_WAYS, isWork } from '@zephyrfield/core/item/kind';
import { onDaysOff } from '@zephyrfield/core/recurrence/pattern';
import { whenShift } from '@zephyrfield/core/time/shift';
import { DAY } from '@zephyrfield/core/time/civil';
import { dayIn, instantIn, type When } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { agendaEntry } from '@zephyrfield/core/view/agenda';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { daysAway, longDay, today as dayOf } from '@zephyrfield/core/words/when';
import { router } from '@/router';
import { useEffect, useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { Pressable, View } from 'react-native';
import { useKeptBriefs } from '@/data/briefs';
import { Refusal, call } from '@/data/client';
import { clockText, useDraft, type Draft } from '@/data/draft';
import { useLearner } from '@/data/learner';
import { changeLayer } from '@/data/layer';
import { useNow } from '@/data/now';
import { removalsFor, writeOwn, writesFor, type Scope } from '@/data/own';
import { useCalendars, useOccurrences } from '@/data/queries';
import { Button } from '@/ui/button';
import { WASH } from '@/ui/colours';
import { choiceBox, choiceWords } from '@/ui/choices';
import { Choice, Field, LongField } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';
import {
  EMPTY,
  PURPOSES,
  PURPOSE_KINDS,
  PURPOSE_WORDS,
  fieldsOf,
  itemOf,
  whenFields,
  type Fields,
} from './form';
import { NewCalendar } from './new-calendar';
import { RepeatFields } from './repeat-fields';
import { DateField, TimeField } from '@/ui/date-field';

/** What is written down or changed, over whatever place one is in. */
export function OwnSheet() {
  const { draft, open, close } = useDraft();
  const calendars = useCalendars(useLearner()!.learner.id);
  if (!open || !draft || !calendars.data) return null;
  return (
    <Sheet label={draft.editing ? 'Change' : 'Add an item'} roomy onClose={close}>
      <OwnForm key={draft.editing?.id ?? draft.day} draft={draft} calendars={calendars.data} />
    </Sheet>
  );
}

const SCOPES: Record<Scope, string> = {
  one: 'this date alone',
  later: 'this date and all later ones',
  all: 'all its dates',
};

function OwnForm({ draft, calendars }: { draft: Draft; calendars: CalendarView[] }) {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const { lastUsed, keep, done } = useDraft();
  const { editing } = draft;
  const occurrences = useOccurrences(learner.id, now);
  const [scope, setScope] = useState<Scope>('one');
  const [line, setLine] = useState('');
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const [adding, setAdding] = useState(false);
  const kept = useKeptBriefs().data ?? [];
  const [keptId, setKeptId] = useState('');
  // A draft may be of another learner, or of a calendar that is gone.
  const known = (id: string) => (calendars.some((c) => c.id === id) ? id : '');
  const begin = (): Fields => {
    if (draft.fields)
      return {
        ...EMPTY,
        ...(draft.fields as Partial<Fields>),
        calendarId: known(String(draft.fields['calendarId'] ?? '')),
      };
    if (editing) {
      const { item, of } = editing;
      const change = of && item.changes.find((c) => instantIn(c.of, viewer) === instantIn(of, viewer));
      const at = of
        ? {
            ...item,
            ...shiftTo(item, change?.when ?? of),
            title: change?.title ?? item.title,
            place: change?.place ?? item.place,
            details: change?.details ?? item.details,
          }
        : item;
      return fieldsOf(at, editing.calendarId, viewer);
    }
    const time = draft.minute === null ? '' : clockText(draft.minute);
    const purpose = draft.minute === null ? 'do' : 'be';
    return {
      ...EMPTY,
      purpose,
      kind: PURPOSE_KINDS[purpose][0]!,
      day: draft.day,
      lastDay: draft.day,
      time,
      calendarId: known(draft.calendarId ?? lastUsed[purpose] ?? ''),
    };
  };
  const {
    control,
    getValues,
    setValue,
    setError: mark,
    clearErrors,
  } = useForm<Fields>({ defaultValues: begin() });
  const f = useWatch({ control }) as Fields;
  const made = itemOf(f, viewer);
  // What it comes to is told before it has a name and a calendar.
  const shown = itemOf({ ...f, calendarId: f.calendarId || '?', title: f.title || '?' }, viewer).item;
  const calendar = calendars.find((c) => c.id === f.calendarId);
  useEffect(() => keep({ ...f }), [keep, f]);

  const set = (fields: Partial<Fields>) => {
    for (const [name, value] of Object.entries(fields)) setValue(name as keyof Fields, value as never);
  };
  const readLine = (text: string) => {
    setLine(text);
    const read = quickAdd(text, { now, zone: viewer, calendars });
    const purpose = isWork(read.kind)
      ? 'do'
      : read.kind === 'dayOff'
        ? 'off'
        : read.kind === 'reminder'
          ? 'remind'
          : 'be';
    set({
      title: read.title,
      purpose,
      kind: read.kind,
      handIn: read.handIn === 'unknown' ? 'paper' : read.handIn,
      minutes: purpose === 'do' && read.minutes ? String(read.minutes) : '',
      ...(read.when
        ? whenFields(read.when, read.end, viewer)
        : draft.day
          ? { day: draft.day, lastDay: draft.day, time: '', until: '' }
          : whenFields(null, null, viewer)),
      calendarId: read.calendarId ?? (known(lastUsed[purpose] ?? '') || getValues('calendarId')),
    });
  };
  /** Runs what writes; where the server refuses, its words stand at their fields. */
  const write = async (work: () => Promise<unknown>) => {
    setBusy(true);
    setError(null);
    try {
      await work();
      done({ purpose: f.purpose, calendarId: f.calendarId });
    } catch (caught) {
      setError(caught);
      if (caught instanceof Refusal)
        for (const { path, message } of caught.problem.fields ?? [])
          mark(path.includes('repeat') ? 'repeats' : path.includes('calendarId') ? 'calendarId' : 'title', {
            message,
          });
      setBusy(false);
    }
  };
  const save = () => {
    clearErrors();
    if (!made.item) {
      for (const [name, message] of Object.entries(made.errors)) mark(name as keyof Fields, { message });
      return;
    }
    const item = withoutDaysOff(made.item);
    void write(async () => {
      if (editing) {
        const same = editing.item.repeat && item.repeat?.rule === editing.item.repeat.rule && !f.skipDaysOff;
        const next = {
          ...item,
          changes: editing.item.changes,
          repeat: same ? editing.item.repeat : item.repeat,
        };
        return writeOwn(
          learner.id,
          writesFor(editing, next, f.calendarId, editing.item.repeat ? scope : 'all'),
          `${item.title} changed`,
        );
      }
      const [written] = await writeOwn(
        learner.id,
        [{ id: null, calendarId: f.calendarId, item, version: 0 }],
        `${item.title} added to ${calendar?.name ?? ''}`,
      );
      const brief = kept.find((k) => k.id === keptId)?.brief;
      if (brief)
        await call('changeBrief', { params: { id: written!.id }, body: { recurrenceId: '', brief } });
      const minutes = Math.round(Number(f.minutes));
      if (minutes > 0 && isWork(item.kind) && !item.repeat) {
        const { occurrence } = await call('item', {
          params: { id: written!.id },
          query: { recurrenceId: '' },
        });
        await changeLayer(learner.id, occurrence, { estimate: minutes });
      }
    });
  };
  /** The item without its dates in breaks and on days off, where that is wanted. */
  const withoutDaysOff = (item: NonNullable<typeof made.item>) => {
    if (!item.repeat || !item.when) return item;
    if (!f.skipDaysOff) return { ...item, repeat: { ...item.repeat, except: [] } };
    const from = instantIn(item.when, viewer) - DAY;
    const times = timesOf(item, {
      from,
      to: from + 740 * DAY,
      zone: viewer,
      zones: (name) => ianaZone(name) ?? UTC,
      limit: 400,
    });
    const off = (occurrences.data ?? [])
      .filter((o) => o.kind === 'dayOff' && o.status !== 'cancelled')
      .map((o) => agendaEntry(o, now, viewer));
    return {
      ...item,
      repeat: {
        ...item.repeat,
        except: onDaysOff(
          times,
          off.map((e) => ({ from: e.day, to: e.lastDay })),
          viewer,
        ),
      },
    };
  };
  const remove = () =>
    editing &&
    void write(async () => {
      await writeOwn(
        learner.id,
        removalsFor(editing, editing.item.repeat ? scope : 'all'),
        `${f.title} deleted`,
      );
      // Its sheet may be open below.
      router.setParams({ item: undefined, at: undefined });
    });

  const text = (name: 'title' | 'place' | 'minutes', label: string, more: object = {}) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <Field label={label} error={fieldState.error?.message} {...more} {...field} />
      )}
    />
  );
  const picked = (Picker: typeof DateField, name: 'day' | 'lastDay' | 'time' | 'until', label: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <Picker
          label={label}
          error={fieldState.error?.message}
          value={field.value}
          onChange={field.onChange}
          onLeave={field.onBlur}
        />
      )}
    />
  );
  const isSpan = f.purpose === 'long' || f.purpose === 'off';
  const day = shown?.when ? dayIn(shown.when, viewer) : null;
  return (
    <View className="gap-4">
      <View
        className={`-mx-5 -mt-5 gap-1 px-5 pb-3 pr-14 pt-5 ${calendar ? WASH[calendar.colour] : 'bg-paper'}`}
      >
        <View className="flex-row items-center gap-3">
          {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={26} /> : null}
          <Text kind="title" heading={2} className="flex-1">
            {editing
              ? `Change in ${calendar?.name ?? ''}`
              : calendar
                ? `Into ${calendar.name}`
                : 'Into which calendar?'}
          </Text>
        </View>
        <Text kind="small">
          {KIND_WORDS[f.kind]}
          {day === null
            ? ' · no date yet'
            : ` · ${isWork(f.kind) ? 'due ' : ''}${longDay(day)}${f.time && !isSpan ? `, ${f.time}` : ''} · ${daysAway(day, dayOf(now, viewer))}`}
          {f.minutes && f.purpose === 'do' ? ` · ${f.minutes} min` : ''}
        </Text>
      </View>
      {editing ? null : (
        <Field
          label="In one line"
          hint="Such as: ceramics sketchbook fri 16:00 45 min"
          value={line}
          autoFocus
          autoComplete="off"
          onChange={(e) => readLine(e.currentTarget.value)}
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
      <View role="radiogroup" aria-label="What it is for" className="flex-row flex-wrap gap-x-1">
        {PURPOSES.map((purpose) => (
          <Pressable
            key={purpose}
            role="radio"
            aria-checked={f.purpose === purpose}
            onPress={() =>
              set({
                purpose,
                kind: PURPOSE_KINDS[purpose][0]!,
                ...(f.calendarId ? {} : { calendarId: lastUsed[purpose] ?? '' }),
              })
            }
            className={choiceBox(f.purpose === purpose)}
          >
            <Text className={choiceWords(f.purpose === purpose)}>{PURPOSE_WORDS[purpose]}</Text>
          </Pressable>
        ))}
      </View>
      {text('title', 'What', { autoComplete: 'off' })}
      <Controller
        control={control}
        name="calendarId"
        render={({ field, fieldState }) => (
          <Choice
            label="Calendar"
            error={fieldState.error?.message}
            options={[
              ...(field.value ? [] : [{ value: '', words: 'choose …' }]),
              ...calendars.map((c) => ({ value: c.id, words: c.name })),
            ]}
            {...field}
          />
        )}
      />
      {adding ? (
        <NewCalendar
          learnerId={learner.id}
          zone={viewer.id}
          flying={calendars}
          onMade={(id) => (set({ calendarId: id }), setAdding(false))}
        />
      ) : (
        <Button kind="quiet" onPress={() => setAdding(true)} className="-ml-4 -mt-3 self-start">
          New calendar …
        </Button>
      )}
      {PURPOSE_KINDS[f.purpose].length > 1 ? (
        <Controller
          control={control}
          name="kind"
          render={({ field }) => (
            <Choice
              label="It is"
              options={PURPOSE_KINDS[f.purpose].map((value) => ({
                value,
                words: `a${value === 'assignment' ? 'n' : ''} ${KIND_WORDS[value]}`,
              }))}
              {...field}
            />
          )}
        />
      ) : null}
      <View className="flex-row flex-wrap gap-3">
        <View className="min-w-[230px] flex-1">
          {picked(DateField, 'day', f.purpose === 'do' ? 'Due on' : isSpan ? 'First day' : 'On')}
        </View>
        <View className={`flex-1 ${isSpan ? 'min-w-[230px]' : 'min-w-[140px]'}`}>
          {isSpan
            ? picked(DateField, 'lastDay', 'Last day')
            : picked(TimeField, 'time', f.purpose === 'be' ? 'From' : 'At')}
        </View>
        {f.purpose === 'be' ? (
          <View className="min-w-[140px] flex-1">{picked(TimeField, 'until', 'To')}</View>
        ) : null}
      </View>
      {f.purpose === 'do' ? (
        <View className="flex-row gap-3">
          <View className="min-w-0 flex-1">
            <Controller
              control={control}
              name="handIn"
              render={({ field }) => (
                <Choice
                  label="Handing in"
                  options={HAND_IN_WAYS.map((value) => ({ value, words: HAND_IN_WORDS[value] }))}
                  {...field}
                />
              )}
            />
          </View>
          {editing ? null : (
            <View className="w-[110px]">
              {text('minutes', 'Minutes of work', { type: 'number', min: 0, step: 5 })}
            </View>
          )}
        </View>
      ) : null}
      {f.purpose === 'be' ? text('place', 'Where') : null}
      {editing?.item.repeat && scope === 'one' ? null : (
        <RepeatFields control={control} item={shown && withoutDaysOff(shown)} viewer={viewer} now={now} />
      )}
      <Controller
        control={control}
        name="details"
        render={({ field, fieldState }) => (
          <LongField label="What is expected" error={fieldState.error?.message} rows={4} {...field} />
        )}
      />
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
      <ProblemNotice
        problem={
          error instanceof Refusal
            ? error.problem
            : error
              ? { title: 'Something went wrong in this page.', remedy: 'What you typed is kept. Try again.' }
              : null
        }
      />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={busy} onPress={save}>
          {editing ? 'Save the change' : calendar ? `Add to ${calendar.name}` : 'Add'}
        </Button>
        {editing ? (
          <Button kind="second" busy={busy} onPress={remove}>
            Delete
          </Button>
        ) : (
          <Button kind="quiet" onPress={() => done()}>
            Discard
          </Button>
        )}
      </View>
    </View>
  );
}

/** A repeated item's first date put at another of its dates, as long as it is. */
function shiftTo(item: NonNullable<Draft['editing']>['item'], when: When) {
  return { when, end: item.when && item.end ? whenShift(item.end, item.when, when) : null };
}
