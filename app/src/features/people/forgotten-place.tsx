import { Email } from '@zephyrfield/core/api/account';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { forgotPassword } from '@/data/account';
import { problemOf } from '@/data/client';
import { Link } from '@/router';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { linkLook } from '@/ui/link-look';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { LonePage } from './lone-page';

/** Has a link sent by which a forgotten password is set anew. */
export function ForgottenPlace() {
  const [email, setEmail] = useState('');
  const [wrong, setWrong] = useState('');
  const send = useMutation({ mutationFn: forgotPassword });
  const go = () => {
    const result = Email.safeParse(email);
    setWrong(result.error?.issues[0]?.message ?? '');
    if (result.success) send.mutate(result.data);
  };
  return (
    <LonePage title="A new password">
      {send.isSuccess ? (
        <Notice kind="good" title="Look into your mail.">
          If there is an account with this address, a link is on its way. It is good once, for an hour.
        </Notice>
      ) : (
        <>
          <Text className="text-ink2">
            We send a link to your mail address. Where this server sends no mail, ask whoever runs it.
          </Text>
          <Field
            label="E-mail"
            type="email"
            autoComplete="email"
            value={email}
            error={wrong || undefined}
            onChange={(e) => setEmail(e.currentTarget.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter') go();
            }}
          />
          <ProblemNotice problem={send.error && problemOf(send.error)} />
          <Button busy={send.isPending} className="self-start" onPress={go}>
            Send me a link
          </Button>
        </>
      )}
      <Link href="/today" className={linkLook('body')}>
        Back to signing in
      </Link>
    </LonePage>
  );
}
