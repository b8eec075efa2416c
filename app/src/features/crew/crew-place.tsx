import { may } from '@zephyrfield/core/item/access';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { ScrollView } from 'react-native';
import { problemOf } from '@/data/client';
import { useCrew } from '@/data/crew';
import { useLearner } from '@/data/learner';
import { useSession } from '@/data/queries';
import { Button } from '@/ui/button';
import { Coming } from '@/ui/coming';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { History } from './history';
import { Invitations } from './invitations';
import { InviteForm } from './invite-form';
import { MemberLine } from './member-line';
import { WhoSees } from './who-sees';

/**
 * Shows the people around a learner: who they are, what they may do, how they come in, and what each sees.
 */
export function CrewPlace() {
  const { learner, learners, viewer } = useLearner()!;
  const person = useSession().data!.person!;
  const crew = useCrew(learner.id);
  const [inviting, setInviting] = useState(false);
  const keeps = may({ personId: person.id, access: learner.access, isSelf: learner.isSelf }, 'keep');
  const first = firstName(learner.name);
  const open = crew.data?.invitations.filter((i) => i.state === 'open') ?? [];
  // Who is in it stands above all else: were the rest there before, it would be pushed away under a finger.
  if (crew.isPending) return <Coming />;
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-3 px-4 pb-12 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title="Crew" />
      <ProblemNotice problem={crew.error && problemOf(crew.error)} />
      <Part
        title={learner.isSelf ? 'Around you' : `Around ${first}`}
        aside={crew.data ? plural(crew.data.members.length, 'person', 'people') : ''}
      >
        {crew.data?.members.map((member) => (
          <MemberLine
            key={member.id}
            member={member}
            learner={learner}
            isYou={member.personId === person.id}
            keeps={keeps}
            viewer={viewer}
          />
        ))}
        {keeps ? null : (
          <Text kind="small">
            {`${keepersOf(crew.data?.members ?? [])} can invite others and decide what each may do.`}
          </Text>
        )}
      </Part>
      {keeps ? (
        <Part title="Invite" aside={open.length ? `${open.length} open` : ''}>
          {inviting ? (
            <InviteForm
              learner={learner}
              learners={learners.filter((l) => l.access === 'keep')}
              onClose={() => setInviting(false)}
            />
          ) : (
            <Button onPress={() => setInviting(true)} className="self-start">
              Invite somebody
            </Button>
          )}
          <Invitations learner={learner} invitations={crew.data?.invitations ?? []} viewer={viewer} />
        </Part>
      ) : null}
      <WhoSees learner={learner} members={crew.data?.members ?? []} personId={person.id} />
      {keeps && crew.data ? <History events={crew.data.history} viewer={viewer} /> : null}
    </ScrollView>
  );
}

function keepersOf(members: readonly { name: string; access: string }[]): string {
  const names = members.filter((m) => m.access === 'keep').map((m) => m.name);
  return names.length ? names.join(' and ') : 'Whoever keeps this schedule';
}
