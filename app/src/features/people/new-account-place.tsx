import { Beginning, Email, Password } from '@zephyrfield/core/api/account';
import { Name } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { beginAccount, signUp } from '@/data/auth';
import { problemOf } from '@/data/client';
import { Link, router } from '@/router';
import { Button } from '@/ui/button';
import { FormField } from '@/ui/form-field';
import { linkLook } from '@/ui/link-look';
import { PASSWORD_HINT } from '@/ui/new-password-field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { LonePage } from './lone-page';
import { useSecret } from './secret';

/** A new account where anybody may make one: its form, and where the link leads that is sent to its address. */
export function NewAccountPlace() {
  const token = useSecret();
  return (
    <LonePage title="A new account">
      {token ? <ChosenPassword token={token} /> : <Asked />}
      <Link href="/today" className={linkLook('body')}>
        I have an account
      </Link>
    </LonePage>
  );
}

const goIn = () => router.replace('/today');
const NewEntry = z.object({ name: Name, email: Email, password: Password });

function Asked() {
  const { control, handleSubmit } = useForm<z.infer<typeof NewEntry>>({
    resolver: zodResolver(NewEntry),
    defaultValues: { name: '', email: '', password: '' },
  });
  const ask = useMutation({
    mutationFn: (typed: z.infer<typeof NewEntry>) => signUp(typed),
    onSuccess: (waits) => {
      if (!waits) goIn();
    },
  });
  const submit = handleSubmit((typed) => ask.mutate(typed));
  if (ask.data)
    return (
      <Notice kind="good" title="Check your e-mail.">
        {`We sent a link to ${ask.variables.email}. Open it within an hour, and your account is ready.`}
      </Notice>
    );
  return (
    <View className="gap-3">
      <FormField control={control} name="name" label="Your name" autoComplete="name" />
      <FormField control={control} name="email" label="E-mail" type="email" autoComplete="email" />
      <FormField
        control={control}
        name="password"
        label="Password"
        type="password"
        autoComplete="new-password"
        hint={PASSWORD_HINT}
      />
      <ProblemNotice problem={ask.error && problemOf(ask.error)} />
      <Button busy={ask.isPending} className="self-start" onPress={() => void submit()}>
        Create account
      </Button>
    </View>
  );
}

/** Asks for the password that was chosen, where the link in the mail leads. */
function ChosenPassword({ token }: { token: string }) {
  const { control, handleSubmit } = useForm<{ password: string }>({
    resolver: zodResolver(Beginning.pick({ password: true })),
    defaultValues: { password: '' },
  });
  const begin = useMutation({
    mutationFn: ({ password }: { password: string }) => beginAccount(token, password),
    onSuccess: goIn,
  });
  const submit = handleSubmit((typed) => begin.mutate(typed));
  const problem = begin.error ? problemOf(begin.error) : null;
  return (
    <View className="gap-3">
      <Text className="text-ink2">Type the password you chose, and your account is ready.</Text>
      <FormField
        control={control}
        name="password"
        label="Password"
        type="password"
        autoComplete="current-password"
        onKeyDown={(e) => {
          if (e.key === 'Enter') void submit();
        }}
      />
      <ProblemNotice problem={problem} />
      {problem?.status === 410 ? (
        <Link href="/new-account" className={linkLook('body')}>
          Have another link sent
        </Link>
      ) : (
        <Button busy={begin.isPending} className="self-start" onPress={() => void submit()}>
          Make my account
        </Button>
      )}
    </View>
  );
}
