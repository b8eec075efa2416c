import { may } from '@zephyrfield/core/item/access';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { useState, type ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { Link } from '@/router';
import { problemOf } from '@/data/client';
import { useCrew } from '@/data/crew';
import { useLearner } from '@/data/learner';
import { useSession } from '@/data/queries';
import { Button } from '@/ui/button';
import { Cleat } from '@/ui/cleat';
import { Coming } from '@/ui/coming';
import { linkLook } from '@/ui/link-look';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { History } from './history';
import { Invitations } from './invitations';
import { InviteForm } from './invite-form';
import { MemberLine } from './member-line';
import { WhoSees } from './who-sees';

/**
 * The people around a learner: who they are, what they may do, how they come in, and what each sees.
 * @param out what goes out of the schedule, to others
 */
export function CrewPlace({ out }: { out?: ReactNode }) {
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
      <Text kind="display" heading={1}>
        Crew
      </Text>
      <View className="flex-row items-center gap-3 rounded-xl bg-sheet px-4 py-2">
        <Cleat name={person.name} />
        <View className="min-w-0 flex-1">
          <Text kind="strong">{person.name}</Text>
          <View className="flex-row flex-wrap gap-x-5">
            <Link href="/account" className={linkLook('body')}>
              Account
            </Link>
            <Link href="/settings" className={linkLook('body')}>
              Settings
            </Link>
            <Link href="/gather" className={linkLook('body')}>
              Calendars and links
            </Link>
            <Link href="/open-times" className={linkLook('body')}>
              Open times
            </Link>
            <Link href="/notes" className={linkLook('body')}>
              Notes
            </Link>
            {learners.filter((l) => !l.isSelf).length > 1 ? (
              <Link href="/table" className={linkLook('body')}>
                Table of all learners
              </Link>
            ) : null}
            <Link href="/for-others" className={linkLook('body')}>
              Calendars for others
            </Link>
          </View>
        </View>
      </View>
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
      {out}
      {keeps && crew.data ? <History events={crew.data.history} viewer={viewer} /> : null}
    </ScrollView>
  );
}

function keepersOf(members: readonly { name: string; access: string }[]): string {
  const names = members.filter((m) => m.access === 'keep').map((m) => m.name);
  return names.length ? names.join(' and ') : 'Whoever keeps this schedule';
}
