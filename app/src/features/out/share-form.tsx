import { ShareInput as ShareShape, type ShareLook, type ShareView } from '@zephyrfield/core/api/share';
import {
  DEFAULT_SHARE,
  DETAILS,
  DETAIL_WORDS,
  SHARE_KINDS,
  SHARE_KIND_WORDS,
  WORK_FORMS,
  WORK_FORM_WORDS,
  type ShareKind,
  type ShareRules,
} from '@zephyrfield/core/out/share';
import { formatDate } from '@zephyrfield/core/time/civil';
import { today } from '@zephyrfield/core/words/when';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useNow } from '@/data/now';
import { useLearner } from '@/data/learner';
import { lookAtShare, type ShareInput } from '@/data/shares';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { DateField } from '@/ui/date-field';
import { Choice, Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';
import { ChosenCalendars } from './chosen-calendars';

/** What goes along where it is ticked. */
const ALONG = [
  ['finished', 'what is finished'],
  ['reminders', 'reminders'],
  ['aims', 'aims'],
  ['sittings', 'sittings'],
] as const;
/** A page for anyone with the link. */
const PAGE = 'page';

/** Where no term ends, a link that ends does so in so many days, to begin with. */
const MONTHS = 91;

interface Props {
  /** The link as it is; a new one without it */
  share?: ShareView;
  /** What the button says */
  words: string;
  busy: boolean;
  problem: { title: string; remedy?: string | undefined } | null;
  onGo(input: ShareInput): void;
  onCancel(): void;
}

/** What goes out by a link, how much of it and in which form. What others see can be looked at before it does. */
export function ShareForm({ share, words, busy, problem, onGo, onCancel }: Props) {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const [name, setName] = useState(share?.name ?? `${firstName(learner.name)}’s schedule`);
  const [rules, setRules] = useState<ShareRules>(share?.rules ?? DEFAULT_SHARE);
  const [page, setPage] = useState(share?.page ?? false);
  const [until, setUntil] = useState(share?.until ?? '');
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const look = useMutation({ mutationFn: () => lookAtShare(learner.id, rules) });
  const set = (to: Partial<ShareRules>) => {
    setRules({ ...rules, ...to });
    look.reset();
  };
  const input = (): ShareInput | null => {
    const given = { name, rules, page, until: until || null };
    const { success, error } = ShareShape.safeParse(given);
    setWrong(Object.fromEntries(error?.issues.map((i) => [String(i.path.at(-1)), i.message]) ?? []));
    return success ? given : null;
  };
  const lastDay = learner.term?.end ?? formatDate(today(now, viewer) + MONTHS);
  const isBusy = rules.detail === 'busy';
  return (
    <View
      role="group"
      aria-label={share ? `What goes out by ${share.name}` : 'A live link'}
      className="gap-4 rounded-xl bg-sheet p-4"
    >
      <Field
        label="What you call it"
        hint="Calendar programs show this name"
        maxLength={80}
        value={name}
        error={wrong['name']}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <ChosenCalendars
        value={rules.calendars}
        error={wrong['calendars']}
        isForOthers
        onChange={(calendars) => set({ calendars })}
      />
      <Ticks
        label="Of these"
        all={SHARE_KINDS.map((kind) => [kind, SHARE_KIND_WORDS[kind]])}
        chosen={rules.kinds}
        error={wrong['kinds']}
        onChange={(kinds) => set({ kinds: kinds as ShareKind[] })}
      />
      <View className="gap-0.5">
        <Text kind="label">How much is said</Text>
        <View className="-ml-2">
          <Choices
            label="How much is said"
            all={DETAILS.map((each) => [each, DETAIL_WORDS[each]] as const)}
            value={rules.detail}
            onChange={(detail) => set({ detail })}
          />
        </View>
      </View>
      {isBusy || !rules.kinds.includes('due') ? null : (
        <View className="gap-0.5">
          <Text kind="label">What is due</Text>
          <View className="-ml-2">
            <Choices
              label="What is due"
              all={WORK_FORMS.map((each) => [each, WORK_FORM_WORDS[each]] as const)}
              value={rules.workAs}
              onChange={(workAs) => set({ workAs })}
            />
          </View>
          {rules.workAs === 'todo' ? (
            <Text kind="small">Many programs show no to-dos. Try it, or choose another form.</Text>
          ) : null}
        </View>
      )}
      <Ticks
        label="Along with it"
        all={[...(isBusy ? [] : ALONG), [PAGE, 'a page to read for anyone with the link']]}
        chosen={[...ALONG.flatMap(([each]) => (rules[each] ? [each] : [])), ...(page ? [PAGE] : [])]}
        onChange={(chosen) => {
          setPage(chosen.includes(PAGE));
          set(Object.fromEntries(ALONG.map(([each]) => [each, chosen.includes(each)])));
        }}
      />
      <Choice
        label="It goes out"
        value={until ? 'until' : 'always'}
        options={[
          { value: 'always', words: 'until I take it back' },
          { value: 'until', words: 'until a day' },
        ]}
        onChange={(e) => setUntil(e.currentTarget.value === 'until' ? lastDay : '')}
      />
      {until ? (
        <DateField label="The last day" value={until} error={wrong['until']} onChange={setUntil} />
      ) : null}
      {look.data ? <Seen look={look.data} /> : null}
      <ProblemNotice problem={problem ?? (look.error && problemOf(look.error))} />
      <View className="flex-row flex-wrap gap-2">
        <Button
          busy={busy}
          onPress={() => {
            const given = input();
            if (given) onGo(given);
          }}
        >
          {words}
        </Button>
        <Button kind="second" busy={look.isPending} onPress={() => input() && look.mutate()}>
          See it as they do
        </Button>
        <Button kind="second" onPress={onCancel}>
          Cancel
        </Button>
      </View>
    </View>
  );
}

/** What others see by it: how many, and the next ones. */
function Seen({ look: { count, next } }: { look: ShareLook }) {
  return (
    <View role="region" aria-label="What they see" className="gap-1 border-y border-dashed border-line py-3">
      <Text kind="label">
        {count ? `They see ${plural(count, 'entry', 'entries')}. Next:` : 'They see nothing.'}
      </Text>
      {next.map(({ title, when, place }, n) => (
        <View key={n} className="flex-row flex-wrap gap-x-3">
          <Text className="min-w-[150px] flex-1">{title}</Text>
          <Text kind="small">{[when, place].filter(Boolean).join(' · ')}</Text>
        </View>
      ))}
    </View>
  );
}
