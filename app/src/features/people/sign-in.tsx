import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Controller, useForm } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { z } from 'zod';
import { signIn, signUp } from '@/data/auth';
import { problemOf } from '@/data/client';
import { useSession } from '@/data/queries';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';

const Credentials = z.object({
  name: z.string(),
  email: z.email('Type an e-mail address.'),
  password: z.string().min(10, 'Ten characters or more.').max(200, 'At most 200 characters.'),
});
type Credentials = z.infer<typeof Credentials>;

/** Signing in; in an empty installation, making the first account. */
export function SignIn() {
  const { data } = useSession();
  const client = useQueryClient();
  const first = data?.empty ?? false;
  const schema = first ? Credentials.extend({ name: z.string().trim().min(1, 'Say what you are called.').max(120) }) : Credentials;
  const { control, handleSubmit } = useForm<Credentials>({ resolver: zodResolver(schema), defaultValues: { name: '', email: '', password: '' } });
  const enter = useMutation({
    mutationFn: ({ name, email, password }: Credentials) => (first ? signUp(name, email, password) : signIn(email, password)),
    onSuccess: () => client.invalidateQueries(),
  });
  const problem = enter.error && problemOf(enter.error);
  const submit = handleSubmit((input) => enter.mutate(input));
  const onKeyDown = (e: { key: string }) => {
    if (e.key === 'Enter') void submit();
  };
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-10">
      <Contours height={90} />
      <Text kind="display" heading={1}>
        Zephyrfield
      </Text>
      <Text className="text-ink2">{first ? 'This installation is new. Make the first account; it is yours.' : 'All your course calendars in one clear view.'}</Text>
      <View className="gap-3">
        {first ? <Controller control={control} name="name" render={({ field, fieldState }) => <Field label="Your name" autoComplete="name" error={fieldState.error?.message} {...field} />} /> : null}
        <Controller
          control={control}
          name="email"
          render={({ field, fieldState }) => <Field label="E-mail" type="email" autoComplete="email" error={fieldState.error?.message} {...field} onKeyDown={onKeyDown} />}
        />
        <Controller
          control={control}
          name="password"
          render={({ field, fieldState }) => (
            <Field
              label="Password"
              type="password"
              autoComplete={first ? 'new-password' : 'current-password'}
              hint={first ? 'Ten characters or more' : undefined}
              error={fieldState.error?.message}
              {...field}
              onKeyDown={onKeyDown}
            />
          )}
        />
      </View>
      <ProblemNotice problem={problem} />
      <Button busy={enter.isPending} onPress={() => void submit()}>
        {first ? 'Make the account' : 'Sign in'}
      </Button>
    </ScrollView>
  );
}
