import type { MemberView } from '@zephyrfield/core/api/crew';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { ACCESSES } from '@zephyrfield/core/item/access';
import { ACCESS_NAMES, ACCESS_WORDS } from '@zephyrfield/core/item/crew';
import type { Viewer } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { router } from '@/router';
import { problemOf } from '@/data/client';
import { changeMember, removeMember, seeAs } from '@/data/crew';
import { useUndo } from '@/data/undo';
import { Button } from '@/ui/button';
import { Cleat } from '@/ui/cleat';
import { Choice } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { dayOf } from './day-of';

interface Props {
  member: MemberView;
  learner: Learner;
  /** It is who looks */
  isYou: boolean;
  /** Whoever looks keeps the schedule */
  keeps: boolean;
  viewer: Viewer;
}

/** Somebody in the crew: their mark and name, what they may do in words, and what can be done about it. */
export function MemberLine({ member, learner, isYou, keeps, viewer }: Props) {
  const [open, setOpen] = useState(false);
  const since = dayOf(member.since, viewer);
  const first = firstName(learner.name);
  const look = () => {
    const { id: memberId, name, access } = member;
    void seeAs({ memberId, name, may: ACCESS_WORDS[access], learnerId: learner.id }).then(() =>
      router.push('/today'),
    );
  };
  return (
    <View role="group" aria-label={member.name} className="rounded-xl bg-sheet px-4 py-2">
      <View className="flex-row flex-wrap items-center gap-x-3">
        <Cleat name={member.name} />
        <View className="min-w-[180px] flex-1 py-1">
          <Text kind="strong">
            {member.name}
            {isYou ? ' (you)' : ''}
          </Text>
          <Text kind="small">
            {[member.isSelf ? `${first}’s own schedule` : '', ACCESS_NAMES[member.access], `since ${since}`]
              .filter(Boolean)
              .join(' · ')}
          </Text>
        </View>
        <View className="-ml-4 flex-row flex-wrap wide:ml-0">
          {!isYou && (keeps || learner.isSelf) ? (
            <Button kind="quiet" className="px-2" onPress={look} aria-label={`See it as ${member.name} does`}>
              See it as they do
            </Button>
          ) : null}
          {keeps || isYou ? (
            <Button
              kind="quiet"
              className="px-2"
              aria-expanded={open}
              aria-label={isYou && !keeps ? 'Leave this crew' : `Change ${member.name}`}
              onPress={() => setOpen(!open)}
            >
              {isYou && !keeps ? 'Leave' : 'Change'}
            </Button>
          ) : null}
        </View>
      </View>
      {open ? (
        <Change member={member} learner={learner} isYou={isYou} keeps={keeps} onDone={() => setOpen(false)} />
      ) : null}
    </View>
  );
}

function Change({ member, learner, isYou, keeps, onDone }: Omit<Props, 'viewer'> & { onDone(): void }) {
  const [goes, setGoes] = useState(!keeps);
  const first = firstName(learner.name);
  const told = (words: string, undo?: () => Promise<void>) => undo && useUndo.getState().did({ words, undo });
  const change = useMutation({
    mutationFn: (body: { access?: Access; isSelf?: boolean }) => changeMember(learner.id, member.id, body),
    onSuccess: (_done, body) => {
      const { access, isSelf } = member;
      const back = body.access ? { access } : { isSelf };
      // Whoever keeps it no more cannot take it back.
      if (!(isYou && body.access))
        told(`${member.name}: ${body.access ? ACCESS_NAMES[body.access] : 'changed'}`, () =>
          changeMember(learner.id, member.id, back),
        );
    },
  });
  const remove = useMutation({ mutationFn: () => removeMember(learner.id, member.id), onSuccess: onDone });
  const error = change.error ?? remove.error;
  return (
    <View className="gap-3 border-t border-line pb-2 pt-3">
      {keeps ? (
        <>
          <Choice
            label={isYou ? 'You may' : `${member.name} may`}
            value={member.access}
            options={ACCESSES.map((value) => ({ value, words: ACCESS_WORDS[value] }))}
            onChange={(e) => change.mutate({ access: e.currentTarget.value as Access })}
          />
          <Choice
            label="Whose schedule it is"
            value={member.isSelf ? 'theirs' : 'not'}
            options={[
              { value: 'not', words: `${member.name} looks after it or helps` },
              { value: 'theirs', words: `it is ${member.name}’s own` },
            ]}
            onChange={(e) => change.mutate({ isSelf: e.currentTarget.value === 'theirs' })}
          />
        </>
      ) : null}
      <ProblemNotice problem={error && problemOf(error)} />
      {goes ? (
        <View className="gap-2">
          <Text>
            {isYou
              ? `Leave ${first}’s crew? You will see nothing of this schedule any more. What you have added to it stays.`
              : `Remove ${member.name}? They see nothing of this schedule from that moment on. What they have added to it stays.`}
          </Text>
          <View className="flex-row flex-wrap gap-2">
            <Button busy={remove.isPending} onPress={() => remove.mutate()}>
              {isYou ? 'Yes, leave' : 'Yes, remove'}
            </Button>
            <Button kind="second" onPress={() => (keeps ? setGoes(false) : onDone())}>
              {isYou ? 'Stay' : 'Keep'}
            </Button>
          </View>
        </View>
      ) : (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setGoes(true)}>
          {isYou ? 'Leave this crew' : `Remove ${member.name}`}
        </Button>
      )}
    </View>
  );
}
