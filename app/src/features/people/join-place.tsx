import { Email, Password } from '@zephyrfield/core/api/account';
import type { InvitationLook } from '@zephyrfield/core/api/crew';
import { Name } from '@zephyrfield/core/api/schemas';
import { ACCESS_WORDS } from '@zephyrfield/core/item/crew';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { signIn, signUp } from '@/data/auth';
import { problemOf } from '@/data/client';
import { acceptInvitation, lookAtInvitation } from '@/data/crew';
import { useSession } from '@/data/queries';
import { Link, router } from '@/router';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Field } from '@/ui/field';
import { FormField } from '@/ui/form-field';
import { linkLook } from '@/ui/link-look';
import { PASSWORD_HINT } from '@/ui/new-password-field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { LonePage } from './lone-page';
import { SecondStepForm } from './second-step-form';
import { useSecret } from './secret';

/** Where an invitation leads: who asks and what one will be able to do, with or without an account yet. */
export function JoinPlace() {
  const given = useSecret();
  const [typed, setTyped] = useState('');
  const look = useMutation({ mutationFn: lookAtInvitation });
  const { mutate } = look;
  useEffect(() => {
    if (given) mutate(given);
  }, [given, mutate]);
  const secret = look.variables ?? given;
  return (
    <LonePage title={look.data ? `${look.data.by} invites you` : 'Come into a crew'}>
      {look.data ? (
        <Invited invitation={look.data} secret={secret} />
      ) : (
        <>
          <Text className="text-ink2">
            A parent, a learner or a teacher has given you a code of eight letters and digits.
          </Text>
          <Field
            label="The code"
            value={typed}
            autoComplete="off"
            autoCapitalize="characters"
            spellCheck={false}
            maxLength={40}
            onChange={(e) => setTyped(e.currentTarget.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && typed.trim()) mutate(typed);
            }}
          />
          <ProblemNotice problem={look.error && problemOf(look.error)} />
          <Button
            busy={look.isPending}
            disabled={!typed.trim()}
            className="self-start"
            onPress={() => mutate(typed)}
          >
            Look at the invitation
          </Button>
        </>
      )}
      <Link href="/today" className={linkLook('body')}>
        Not now
      </Link>
    </LonePage>
  );
}

function Invited({ invitation, secret }: { invitation: InvitationLook; secret: string }) {
  const { learners, access, asLearner, email } = invitation;
  const session = useSession().data;
  const accept = useMutation({
    mutationFn: () => acceptInvitation(secret),
    onSuccess: () => router.replace('/today'),
  });
  const names = learners.join(' and ');
  return (
    <>
      <Text kind="lead">
        {asLearner ? `to the schedule of ${names}, which becomes your own.` : `to the schedule of ${names}.`}
      </Text>
      <Text>{`You will be able to ${ACCESS_WORDS[access]}.`}</Text>
      <Text className="text-ink2">
        The others in the crew see your name and what you do there. You can leave at any time.
      </Text>
      {email ? <Text kind="small">{`It was sent to ${email}, and is for that address alone.`}</Text> : null}
      <ProblemNotice problem={accept.error && problemOf(accept.error)} />
      {session?.person ? (
        <>
          <Text kind="small">{`You are signed in as ${session.person.name}.`}</Text>
          <Button busy={accept.isPending} className="self-start" onPress={() => accept.mutate()}>
            Come in
          </Button>
        </>
      ) : (
        <Enter secret={secret} onIn={() => accept.mutate()} />
      )}
    </>
  );
}

const Entry = z.object({
  name: z.string(),
  email: Email,
  password: z.string().min(1, 'Type your password.'),
});
const NewEntry = z.object({ name: Name, email: Email, password: Password });
const EITHER = [
  ['new', 'I am new here'],
  ['known', 'I have an account'],
] as const;

/** An account to come in by: a new one, or one that is there. */
function Enter({ secret, onIn }: { secret: string; onIn(): void }) {
  const [isNew, setNew] = useState(true);
  const { control, handleSubmit } = useForm<z.infer<typeof Entry>>({
    resolver: zodResolver(isNew ? NewEntry : Entry),
    defaultValues: { name: '', email: '', password: '' },
  });
  const enter = useMutation({
    mutationFn: async ({ name, email, password }: z.infer<typeof Entry>) => {
      if (!isNew) return signIn(email, password);
      await signUp({ name, email, password }, { invitation: secret });
      return false;
    },
    onSuccess: (hasSecondStep) => {
      if (!hasSecondStep) onIn();
    },
  });
  const submit = handleSubmit((input) => enter.mutate(input));
  if (enter.data) return <SecondStepForm onDone={onIn} onBack={() => enter.reset()} />;
  return (
    <View className="gap-3">
      <View className="-ml-2">
        <Choices
          label="Your account"
          all={EITHER}
          value={isNew ? 'new' : 'known'}
          onChange={(v) => setNew(v === 'new')}
        />
      </View>
      {isNew ? <FormField control={control} name="name" label="Your name" autoComplete="name" /> : null}
      <FormField control={control} name="email" label="E-mail" type="email" autoComplete="email" />
      <FormField
        control={control}
        name="password"
        label="Password"
        type="password"
        autoComplete={isNew ? 'new-password' : 'current-password'}
        hint={isNew ? PASSWORD_HINT : undefined}
      />
      <ProblemNotice problem={enter.error && problemOf(enter.error)} />
      <Button busy={enter.isPending} className="self-start" onPress={() => void submit()}>
        {isNew ? 'Make an account and come in' : 'Sign in and come in'}
      </Button>
    </View>
  );
}
