import { Email, Password, SetUpWord, SignIn as SignInShape } from '@zephyrfield/core/api/account';
import { Name } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { z } from 'zod';
import { signIn, signUp } from '@/data/auth';
import { problemOf } from '@/data/client';
import { hasPasskeys, signInByPasskey } from '@/data/passkeys';
import { useSession } from '@/data/queries';
import { Link } from '@/router';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { linkLook } from '@/ui/link-look';
import { PASSWORD_HINT } from '@/ui/new-password-field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { FormField } from '@/ui/form-field';
import { SecondStepForm } from './second-step-form';

const Entry = z.object({
  name: z.string(),
  setUpWord: z.string(),
  email: Email,
  password: SignInShape.shape.password,
});
const FirstAccount = z.object({
  name: Name,
  setUpWord: SetUpWord.min(1, 'Type the set-up word.'),
  email: Email,
  password: Password,
});
type Entry = z.infer<typeof Entry>;

/** Signing in; in an empty installation, making the first account. */
export function SignIn() {
  const { data } = useSession();
  const first = data?.empty ?? false;
  const { control, handleSubmit } = useForm<Entry>({
    resolver: zodResolver(first ? FirstAccount : Entry),
    defaultValues: { name: '', setUpWord: '', email: '', password: '' },
  });
  const enter = useMutation({
    mutationFn: async ({ name, setUpWord, email, password }: Entry) => {
      if (!first) return signIn(email, password);
      await signUp({ name, email, password }, { setUpWord });
      return false;
    },
  });
  const byPasskey = useMutation({ mutationFn: signInByPasskey });
  const problem = enter.error && problemOf(enter.error);
  const submit = handleSubmit((input) => enter.mutate(input));
  const onKeyDown = (e: { key: string }) => {
    if (e.key === 'Enter') void submit();
  };
  if (enter.data)
    return (
      <ScrollView
        className="flex-1"
        contentContainerClassName="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-12"
      >
        <Text kind="display" heading={1}>
          One more step
        </Text>
        <SecondStepForm onBack={() => enter.reset()} />
      </ScrollView>
    );
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-10"
    >
      <Contours height={90} />
      <Text kind="display" heading={1}>
        Zephyrfield
      </Text>
      <Text className="text-ink2">
        {first
          ? 'This is a new installation. Create the first account.'
          : 'All your course calendars in one clear view.'}
      </Text>
      <View className="gap-3">
        {first ? (
          <>
            <FormField
              control={control}
              name="setUpWord"
              label="Set-up word"
              hint="The server printed it when it started"
              autoComplete="off"
              autoCapitalize="characters"
              spellCheck={false}
            />
            <FormField control={control} name="name" label="Your name" autoComplete="name" />
          </>
        ) : null}
        <FormField
          control={control}
          name="email"
          label="E-mail"
          type="email"
          autoComplete="email"

          onKeyDown={onKeyDown}
        />
        <FormField
          control={control}
          name="password"
          label="Password"
          type="password"
          autoComplete={first ? 'new-password' : 'current-password'}
          hint={first ? PASSWORD_HINT : undefined}

          onKeyDown={onKeyDown}
        />
      </View>
      <ProblemNotice problem={problem} />
      <Button busy={enter.isPending} onPress={() => void submit()}>
        {first ? 'Create account' : 'Sign in'}
      </Button>
      {first || !hasPasskeys() ? null : (
        <>
          <Button kind="second" busy={byPasskey.isPending} onPress={() => byPasskey.mutate()}>
            Sign in with a passkey
          </Button>
          <ProblemNotice problem={byPasskey.error && problemOf(byPasskey.error)} />
        </>
      )}
      {first ? null : (
        <View className="flex-row flex-wrap gap-x-6">
          <Link href="/forgotten" className={linkLook('body')}>
            I forgot my password
          </Link>
          <Link href="/join" className={linkLook('body')}>
            I have a code
          </Link>
          {data?.open ? (
            <Link href="/new-account" className={linkLook('body')}>
              I am new here
            </Link>
          ) : null}
        </View>
      )}
    </ScrollView>
  );
}
