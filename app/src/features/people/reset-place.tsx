import { Password } from '@zephyrfield/core/api/account';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { resetPassword } from '@/data/account';
import { problemOf } from '@/data/client';
import { Link } from '@/router';
import { Button } from '@/ui/button';
import { linkLook } from '@/ui/link-look';
import { NewPasswordField } from '@/ui/new-password-field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { LonePage } from './lone-page';
import { useSecret } from './secret';

/** Where the link in a mail leads by which a password is set anew. */
export function ResetPlace() {
  const token = useSecret();
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState('');
  const reset = useMutation({ mutationFn: (text: string) => resetPassword(token, text) });
  const go = () => {
    const result = Password.safeParse(password);
    setWrong(result.error?.issues[0]?.message ?? '');
    if (result.success) reset.mutate(result.data);
  };
  return (
    <LonePage title="Choose a new password">
      {reset.isSuccess ? (
        <Notice kind="good" title="Your new password is set.">
          You were signed out everywhere. Sign in with it.
        </Notice>
      ) : (
        <>
          <NewPasswordField value={password} error={wrong} onChange={setPassword} onEnter={go} />
          <ProblemNotice problem={reset.error && problemOf(reset.error)} />
          <Button busy={reset.isPending} disabled={!token} className="self-start" onPress={go}>
            Set it
          </Button>
        </>
      )}
      <Link href={reset.error ? '/forgotten' : '/today'} className={linkLook('body')}>
        {reset.error ? 'Have another link sent' : 'Sign in'}
      </Link>
    </LonePage>
  );
}
