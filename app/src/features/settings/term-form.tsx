import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import type { Session } from '@zephyrfield/core/api/schemas';
import { Term } from '@zephyrfield/core/api/values';
import { versionOf } from '@zephyrfield/core/lib/version';
import { schoolTerm } from '@zephyrfield/core/view/term';
import { longDay, shortDay, today as dayOf } from '@zephyrfield/core/words/when';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { keys, refresh, useCalendars, useOccurrences } from '@/data/queries';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { DateField } from '@/ui/date-field';
import { FormField, FormPicker } from '@/ui/form-field';

/**
 * When the term is, what its weeks are called and when there is none: from the school's calendar, or typed.
 */
export function TermForm({ mayEdit }: { mayEdit: boolean }) {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const calendars = useCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const found = schoolTerm(occurrences.data, calendars.data, dayOf(now, viewer));
  // What the form was begun from. Where somebody else has changed the term meanwhile, it is refused and
  // theirs is shown above what was typed, which can then be saved over it.
  const [begun, setBegun] = useState(learner.term);
  const save = useMutation({
    mutationFn: ({ term, madeOn }: { term: Term | null; madeOn: Term | null }) =>
      call('changeTerm', { params: { learnerId: learner.id }, body: { term, version: versionOf(madeOn) } }),
    onSettled: async (_, refused) => {
      await refresh(keys.session, client);
      if (!refused) return setOpen(false);
      setBegun(
        client.getQueryData<Session>(keys.session)?.learners.find((l) => l.id === learner.id)?.term ?? null,
      );
    },
  });
  const term = learner.term ?? found;
  const day = (text: string) => longDay(parseDate(text));
  const begin: Term = term ?? {
    start: formatDate(dayOf(now, viewer)),
    end: formatDate(dayOf(now, viewer) + 110),
    names: [],
    breaks: [],
  };
  return (
    <View className="gap-3">
      {term ? (
        <View className="gap-0.5">
          <Text>
            {day(term.start)} to {day(term.end)},{' '}
            {learner.term ? 'entered by hand' : 'from the school’s calendar'}
          </Text>
          {term.names.length ? (
            <Text kind="small">
              {term.names.map((n) => `${n.name} (from ${shortDay(parseDate(n.day))})`).join(', ')}
            </Text>
          ) : null}
          {term.breaks.length ? (
            <Text kind="small">
              {term.breaks
                .map((b) => `${b.name}: ${shortDay(parseDate(b.from))} to ${shortDay(parseDate(b.to))}`)
                .join(', ')}
            </Text>
          ) : null}
        </View>
      ) : (
        <Text className="text-ink2">No term yet. Follow the school’s calendar, or enter the dates.</Text>
      )}
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      {mayEdit && !open ? (
        <View className="flex-row flex-wrap gap-2">
          <Button
            kind="second"
            onPress={() => {
              setBegun(learner.term);
              setOpen(true);
            }}
          >
            {learner.term ? 'Change it' : 'Enter it'}
          </Button>
          {learner.term ? (
            <Button
              kind="quiet"
              busy={save.isPending}
              onPress={() => save.mutate({ term: null, madeOn: learner.term })}
            >
              Use the school’s calendar
            </Button>
          ) : null}
        </View>
      ) : null}
      {open ? (
        <Fields
          begin={begin}
          busy={save.isPending}
          onSave={(term) => save.mutate({ term, madeOn: begun })}
          onLeave={() => setOpen(false)}
        />
      ) : null}
    </View>
  );
}

function Fields({
  begin,
  busy,
  onSave,
  onLeave,
}: {
  begin: Term;
  busy: boolean;
  onSave(term: Term): void;
  onLeave(): void;
}) {
  const { control, handleSubmit } = useForm<Term>({ resolver: zodResolver(Term), defaultValues: begin });
  const names = useFieldArray({ control, name: 'names' });
  const breaks = useFieldArray({ control, name: 'breaks' });
  const text = (name: `names.${number}.name` | `breaks.${number}.name`, label: string) => (
    <FormField control={control} name={name} label={label} />
  );
  const date = (
    name: 'start' | 'end' | `names.${number}.day` | `breaks.${number}.from` | `breaks.${number}.to`,
    label: string,
  ) => (
    <FormPicker
      as={DateField}
      control={control}
      name={name}
      label={label}

      isRequired
    />
  );
  return (
    <View className="gap-4 rounded-xl bg-sheet p-4 shadow-sm">
      <View className="flex-row flex-wrap gap-3">
        <View className="min-w-[150px] flex-1">{date('start', 'The term begins')}</View>
        <View className="min-w-[150px] flex-1">{date('end', 'It ends')}</View>
      </View>
      <Text kind="label">Weeks with a name</Text>
      {names.fields.map((f, i) => (
        <View key={f.id} className="flex-row flex-wrap items-end gap-2">
          <View className="min-w-[140px] flex-1">{text(`names.${i}.name`, 'Name')}</View>
          <View className="w-[160px]">{date(`names.${i}.day`, 'A day in it')}</View>
          <Button
            kind="quiet"
            onPress={() => names.remove(i)}
            aria-label={`Remove the name of week ${i + 1}`}
          >
            Remove
          </Button>
        </View>
      ))}
      <Button
        kind="quiet"
        onPress={() => names.append({ day: begin.start, name: '' })}
        className="-ml-4 self-start"
      >
        Name a week
      </Button>
      <Text kind="label">Breaks</Text>
      {breaks.fields.map((f, i) => (
        <View key={f.id} className="flex-row flex-wrap items-end gap-2">
          <View className="min-w-[140px] flex-1">{text(`breaks.${i}.name`, 'Name')}</View>
          <View className="w-[150px]">{date(`breaks.${i}.from`, 'From')}</View>
          <View className="w-[150px]">{date(`breaks.${i}.to`, 'to')}</View>
          <Button kind="quiet" onPress={() => breaks.remove(i)} aria-label={`Remove break ${i + 1}`}>
            Remove
          </Button>
        </View>
      ))}
      <Button
        kind="quiet"
        onPress={() => breaks.append({ from: begin.start, to: begin.start, name: '' })}
        className="-ml-4 self-start"
      >
        Add a break
      </Button>
      <View className="flex-row flex-wrap gap-2">
        <Button busy={busy} onPress={() => void handleSubmit(onSave)()}>
          Save the term
        </Button>
        <Button kind="second" onPress={onLeave}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
