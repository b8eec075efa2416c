import { NewInvitation } from '@zephyrfield/core/api/crew';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { ACCESSES } from '@zephyrfield/core/item/access';
import { ACCESS_WORDS, type InviteWay } from '@zephyrfield/core/item/crew';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { invite } from '@/data/crew';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Choice, Field } from '@/ui/field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';
import { ToldOnce } from './told-once';

const WAYS = [
  ['code', 'a code to read out'],
  ['link', 'a link'],
  ['mail', 'a mail'],
] as const;
const DAYS = ['1', '7', '14', '30', '90'].map((value) => ({
  value,
  words: value === '1' ? 'a day' : `${value} days`,
}));
const USES = ['1', '2', '5', '10', '30', '100', '500'].map((value) => ({
  value,
  words: value === '1' ? 'one person' : `${value} people`,
}));

interface Props {
  learner: Learner;
  /** Whose schedules one keeps */
  learners: readonly Learner[];
  onClose(): void;
}

/** Invites somebody: by which way, to whose schedules, to do what, until when. What it comes to is said before it goes. */
export function InviteForm({ learner, learners, onClose }: Props) {
  const [way, setWay] = useState<InviteWay>('code');
  const [chosen, setChosen] = useState<readonly string[]>([learner.id]);
  const [access, setAccess] = useState<Access>('look');
  const [isLearner, setLearner] = useState(false);
  const [email, setEmail] = useState('');
  const [days, setDays] = useState('7');
  const [uses, setUses] = useState('1');
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const send = useMutation({ mutationFn: invite });
  const first = firstName(learner.name);
  const names = learners.filter((l) => chosen.includes(l.id)).map((l) => firstName(l.name));

  const go = () => {
    const body = {
      learnerIds: isLearner ? [learner.id] : [...chosen],
      way,
      access,
      asLearner: isLearner,
      days: Number(days),
      uses: isLearner || way === 'mail' ? 1 : Number(uses),
      ...(way === 'mail' ? { email } : {}),
    };
    const result = NewInvitation.safeParse(body);
    setWrong(Object.fromEntries(result.error?.issues.map((i) => [String(i.path[0] ?? ''), i.message]) ?? []));
    if (result.success) send.mutate(body);
  };

  if (send.isSuccess)
    return send.data === null ? (
      <View className="gap-3">
        <Notice kind="good" title="The invitation is on its way.">
          {`It was sent to ${email.trim()}.`}
        </Notice>
        <Button kind="second" className="self-start" onPress={onClose}>
          Done
        </Button>
      </View>
    ) : (
      <ToldOnce way={way} secret={send.data} days={Number(days)} onClose={onClose} />
    );
  return (
    <View role="group" aria-label="Invite somebody" className="gap-4 rounded-xl bg-sheet p-4">
      <View className="gap-0.5">
        <Text kind="label">By</Text>
        <View className="-ml-2">
          <Choices label="By which way" all={WAYS} value={way} onChange={(v) => setWay(v)} />
        </View>
      </View>
      {way === 'mail' ? (
        <Field
          label="Their mail address"
          type="email"
          autoComplete="off"
          value={email}
          error={wrong['email']}
          hint="Only who signs in with this address can use the invitation"
          onChange={(e) => setEmail(e.currentTarget.value)}
        />
      ) : null}
      <Choice
        label="For"
        value={isLearner ? 'learner' : 'other'}
        options={[
          { value: 'other', words: 'family, a teacher, a friend' },
          { value: 'learner', words: `${first} themself: the schedule becomes their own` },
        ]}
        onChange={(e) => {
          const is = e.currentTarget.value === 'learner';
          setLearner(is);
          if (is) setAccess('edit');
        }}
      />
      {learners.length > 1 && !isLearner ? (
        <Ticks
          label="To the schedules of"
          all={learners.map((l) => [l.id, l.name])}
          chosen={chosen}
          error={wrong['learnerIds']}
          onChange={setChosen}
        />
      ) : null}
      <Choice
        label="They may"
        value={access}
        options={ACCESSES.map((value) => ({ value, words: ACCESS_WORDS[value] }))}
        onChange={(e) => setAccess(e.currentTarget.value as Access)}
      />
      <View className="flex-row flex-wrap gap-3">
        <View className="min-w-[140px] flex-1">
          <Choice
            label="Good for"
            value={days}
            options={DAYS}
            onChange={(e) => setDays(e.currentTarget.value)}
          />
        </View>
        {isLearner || way === 'mail' ? null : (
          <View className="min-w-[140px] flex-1">
            <Choice
              label="Lets in"
              value={uses}
              options={USES}
              onChange={(e) => setUses(e.currentTarget.value)}
            />
          </View>
        )}
      </View>
      <Text>
        {isLearner
          ? `Whoever uses it is ${first}, and may ${ACCESS_WORDS[access]}.`
          : `Whoever uses it may ${ACCESS_WORDS[access]}, in the schedule of ${names.join(' and ') || 'nobody yet'}.`}
      </Text>
      <ProblemNotice problem={send.error && problemOf(send.error)} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={send.isPending} onPress={go}>
          {way === 'mail' ? 'Send the invitation' : way === 'link' ? 'Make the link' : 'Make the code'}
        </Button>
        <Button kind="second" onPress={onClose}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
