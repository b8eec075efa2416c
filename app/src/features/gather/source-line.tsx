import { routes } from '@zephyrfield/core/api/routes';
import type { CalendarView, Learner, SourceView } from '@zephyrfield/core/api/schemas';
import { away, plural } from '@zephyrfield/core/view/words';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import RefreshCw from 'lucide-react-native/icons/refresh-cw';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { CalendarFields, CalendarInput, inputOf } from './calendar-fields';

interface Props {
  source: SourceView;
  calendar: CalendarView | undefined;
  learner: Learner;
  mayEdit: boolean;
  now: number;
}

/** One source: whose it is, how fresh it is, what is wrong with it, and what can be done with it. */
export function SourceLine({ source, calendar, learner, mayEdit, now }: Props) {
  const client = useQueryClient();
  const [open, setOpen] = useState<'change' | 'remove' | null>(null);
  const onSettled = () => refreshLearner(client, learner.id);
  const params = { id: source.id };
  const check = useMutation({ mutationFn: (confirm: boolean) => call(routes.readSource, { params, body: { confirm } }), onSettled });
  const pause = useMutation({ mutationFn: (paused: boolean) => call(routes.changeSource, { params, body: { paused } }), onSettled });
  const remove = useMutation({ mutationFn: () => call(routes.removeSource, { params }), onSettled });
  const failure = check.error ?? remove.error ?? pause.error;
  const problem = failure && problemOf(failure);
  const name = calendar?.name ?? 'Calendar';
  const ago = (iso: string | null) => (iso ? away(Date.parse(iso), now) : 'never');
  const paused = source.nextCheck === null;
  const freshness = paused ? `paused, last checked ${ago(source.lastChecked)}` : `checked ${ago(source.lastChecked)}`;
  return (
    <View className="gap-2 rounded-xl bg-sheet px-4 py-3 shadow-sm" role="group" aria-label={name}>
      <View className="flex-row flex-wrap items-center gap-x-3 gap-y-2">
        {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={22} /> : null}
        <View className="min-w-[160px] flex-1">
          <Text kind="lead" heading={2}>
            {name}
          </Text>
          <Text kind="small">
            Live link · {plural(source.entries, 'entry', 'entries')} · {freshness}
          </Text>
          <Text kind="small">{source.address}</Text>
        </View>
        {mayEdit ? (
          <Button kind="second" icon={RefreshCw} busy={check.isPending} onPress={() => check.mutate(false)} aria-label={`Check ${name} now`}>
            Check now
          </Button>
        ) : null}
      </View>
      {check.data && !source.trouble && !source.heldBack ? <CheckResult {...check.data} /> : null}
      {source.heldBack ? (
        <Notice kind="warning" title={`The last reading had lost ${source.heldBack.missing} of ${source.heldBack.of} entries still to come.`}>
          <View className="gap-2">
            <Text>That looks like a mistake at the other end, so what you had is kept. If it stays so for a day, it will be believed.</Text>
            {mayEdit ? (
              <Button kind="second" busy={check.isPending} onPress={() => check.mutate(true)} className="self-start">
                They are really gone
              </Button>
            ) : null}
          </View>
        </Notice>
      ) : null}
      {source.trouble ? (
        <Notice kind="warning" title={source.trouble.message}>
          <Text>
            Since {ago(source.trouble.since)}. What you see is from {ago(source.lastGood)}; nothing is lost. {source.trouble.remedy}
          </Text>
        </Notice>
      ) : null}
      <ProblemNotice problem={problem} />
      {source.warnings.length ? <Warnings warnings={source.warnings} /> : null}
      {mayEdit && open === null ? (
        <View className="-ml-4 flex-row flex-wrap">
          <Button kind="quiet" onPress={() => setOpen('change')} aria-label={`Change ${name}`}>
            Change
          </Button>
          <Button kind="quiet" busy={pause.isPending} onPress={() => pause.mutate(!paused)} aria-label={`${paused ? 'Go on checking' : 'Pause'} ${name}`}>
            {paused ? 'Go on checking' : 'Pause'}
          </Button>
          <Button kind="quiet" onPress={() => setOpen('remove')} aria-label={`Stop following ${name}`}>
            Stop following
          </Button>
        </View>
      ) : null}
      {open === 'change' && calendar ? <ChangeForm calendar={calendar} onDone={() => setOpen(null)} /> : null}
      {open === 'remove' ? (
        <Notice kind="warning" title={`Stop following ${name}?`}>
          <View className="gap-2">
            <Text>The calendar, its {plural(source.entries, 'entry', 'entries')} and what was ticked off in it go. The course itself is not touched, and you can follow the link again.</Text>
            <View className="flex-row flex-wrap gap-2">
              <Button busy={remove.isPending} onPress={() => remove.mutate()}>
                Take it away
              </Button>
              <Button kind="second" onPress={() => setOpen(null)}>
                Keep it
              </Button>
            </View>
          </View>
        </Notice>
      ) : null}
    </View>
  );
}

function ChangeForm({ calendar, onDone }: { calendar: CalendarView; onDone(): void }) {
  const client = useQueryClient();
  const { control, handleSubmit } = useForm<CalendarInput>({ resolver: zodResolver(CalendarInput), defaultValues: inputOf(calendar) });
  const save = useMutation({
    mutationFn: (body: CalendarInput) => call(routes.changeCalendar, { params: { id: calendar.id }, body }),
    onSuccess: async () => {
      await refreshLearner(client, calendar.learnerId);
      onDone();
    },
  });
  const problem = save.error && problemOf(save.error);
  return (
    <View className="gap-4 border-t border-line pt-3">
      <CalendarFields control={control} />
      <ProblemNotice problem={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} onPress={() => void handleSubmit((input) => save.mutate(input))()}>
          Save
        </Button>
        <Button kind="second" onPress={onDone}>
          Leave it as it was
        </Button>
      </View>
    </View>
  );
}

function Warnings({ warnings }: { warnings: SourceView['warnings'] }) {
  return (
    <View>
      <Text kind="small" className="font-bold text-marigold">
        {plural(warnings.length, 'thing')} in it could not be read
      </Text>
      {warnings.slice(0, 3).map((w, i) => (
        <Text key={i} kind="small">
          {w.line ? `Line ${w.line}: ` : ''}
          {w.message}
        </Text>
      ))}
    </View>
  );
}

function CheckResult({ unchanged, added, changed, gone }: { unchanged: boolean; added: number; changed: number; gone: number }) {
  const words = [added ? `${added} new` : null, changed ? `${changed} changed` : null, gone ? `${gone} gone` : null].filter(Boolean).join(', ');
  return (
    <Text kind="label" role="status" className="text-fern">
      {unchanged ? 'Checked: nothing has changed.' : `Checked: ${words}.`}
    </Text>
  );
}
