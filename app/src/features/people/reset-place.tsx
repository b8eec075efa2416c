import { Password } from '@zephyrfield/core/api/account';
import type { ResetLook } from '@zephyrfield/core/api/account-view';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { lookAtReset, resetPassword } from '@/data/account';
import { problemOf } from '@/data/client';
import { Link } from '@/router';
import { Button } from '@/ui/button';
import { linkLook } from '@/ui/link-look';
import { NewPasswordField } from '@/ui/new-password-field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';
import { dayHere } from './day-here';
import { LonePage } from './lone-page';
import { useSecret } from './secret';

/** Name of the second step among what may stay. */
const SECOND_STEP = 'second step';

/** Sets a forgotten password anew, where the link in a mail leads. */
export function ResetPlace() {
  const token = useSecret();
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState('');
  const [kept, setKept] = useState<readonly string[]>([]);
  const look = useQuery({
    queryKey: ['reset', token],
    queryFn: () => lookAtReset(token),
    enabled: token !== '',
    retry: false,
  });
  const reset = useMutation({
    mutationFn: (newPassword: string) =>
      resetPassword({
        token,
        newPassword,
        passkeys: kept.filter((each) => each !== SECOND_STEP),
        secondStep: kept.includes(SECOND_STEP),
      }),
  });
  const go = () => {
    const result = Password.safeParse(password);
    setWrong(result.error?.issues[0]?.message ?? '');
    if (result.success) reset.mutate(result.data);
  };
  const failure = reset.error ?? look.error;
  return (
    <LonePage title="Choose a new password">
      {reset.isSuccess ? (
        <Notice kind="good" title="Your new password is set.">
          You were signed out everywhere. Sign in with it.
        </Notice>
      ) : look.error ? (
        <ProblemNotice problem={problemOf(look.error)} />
      ) : (
        <>
          <NewPasswordField value={password} error={wrong} onChange={setPassword} onEnter={go} />
          {look.data ? <OtherWays look={look.data} kept={kept} onChange={setKept} /> : null}
          <ProblemNotice problem={reset.error && problemOf(reset.error)} />
          <Button busy={reset.isPending} disabled={!look.data} className="self-start" onPress={go}>
            Set it
          </Button>
        </>
      )}
      <Link href={failure ? '/forgotten' : '/today'} className={linkLook('body')}>
        {failure ? 'Have another link sent' : 'Sign in'}
      </Link>
    </LonePage>
  );
}

/** Asks which passkeys, and whether the second step, stay: somebody else may have added them. */
function OtherWays({
  look: { passkeys, secondStep },
  kept,
  onChange,
}: {
  look: ResetLook;
  kept: readonly string[];
  onChange(kept: readonly string[]): void;
}) {
  if (!passkeys.length && !secondStep) return null;
  const all: [string, string][] = passkeys.map(({ id, name, since }) => [
    id,
    `Passkey “${name}”, since ${dayHere(since)}`,
  ]);
  if (secondStep) all.push([SECOND_STEP, 'The second step, by an app']);
  return (
    <View className="gap-1">
      <Ticks label="Keep only what you added yourself" all={all} chosen={kept} onChange={onChange} />
      <Text kind="small">What is not ticked is removed, so that nobody else can sign in by it.</Text>
    </View>
  );
}
