import { Password } from '@zephyrfield/core/api/account';
import type { AccountView } from '@zephyrfield/core/api/account-view';
import { RELEASE } from '@zephyrfield/core/lib/release';
import { plural } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { changeEmail, changeName, changePassword, leaveForGood, useAccount } from '@/data/account';
import { problemOf } from '@/data/client';
import { useUndo } from '@/data/undo';
import { AskedPassword } from '@/ui/asked-password';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { NewPasswordField } from '@/ui/new-password-field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { SavedField } from '@/ui/saved-field';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { Devices } from './devices';
import { Passkeys } from './passkeys';
import { SecondStep } from './second-step';

/** One’s own account: who one is, how one signs in and where, and how it ends. */
export function AccountPlace() {
  const account = useAccount();
  const { data } = account;
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-2 px-4 pb-12 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title="Your account" />
      <ProblemNotice problem={account.error && problemOf(account.error)} />
      {data ? (
        <>
          <Who account={data} />
          <NewPassword />
          <SecondStep isOn={data.secondStep} />
          <Passkeys passkeys={data.passkeys} />
          <Devices sessions={data.sessions} />
          <Ending account={data} />
          <Text kind="small" className="pt-4">{`Zephyrfield ${RELEASE}`}</Text>
        </>
      ) : null}
    </ScrollView>
  );
}

function Who({ account }: { account: AccountView }) {
  const [open, setOpen] = useState(false);
  const [email, setEmail] = useState('');
  const name = useMutation({
    mutationFn: changeName,
    onSuccess: () =>
      useUndo.getState().did({ words: 'Your name changed', undo: () => changeName(account.name) }),
  });
  const move = useMutation({
    mutationFn: (password: string) => changeEmail(email, password),
    onSuccess: () => setOpen(false),
  });
  return (
    <Part title="Who you are" aside="">
      <SavedField
        label="Your name, as others in a crew see it"
        autoComplete="name"
        value={account.name}
        error={name.error ? problemOf(name.error).title : undefined}
        onSave={(text) => text.trim() && name.mutate(text)}
      />
      <View className="flex-row flex-wrap items-center justify-between gap-x-3">
        <Text className="min-w-[240px] flex-1 [overflow-wrap:anywhere]">
          {account.email}
          {account.confirmed ? '' : ' (not confirmed yet)'}
        </Text>
        <Button kind="quiet" className="-ml-4" aria-expanded={open} onPress={() => setOpen(!open)}>
          Change the address
        </Button>
      </View>
      {move.data ? (
        <Notice kind="note" title={`A link is on its way to ${email.trim()}.`}>
          Your address changes once you open it. Until then the former one counts.
        </Notice>
      ) : null}
      {open ? (
        <AskedPassword
          words="Change it"
          busy={move.isPending}
          problem={move.error && problemOf(move.error)}
          onGo={(password) => move.mutate(password)}
          onCancel={() => setOpen(false)}
        >
          <Field
            label="New mail address"
            type="email"
            autoComplete="email"
            value={email}
            onChange={(e) => setEmail(e.currentTarget.value)}
          />
        </AskedPassword>
      ) : null}
    </Part>
  );
}

function NewPassword() {
  const [open, setOpen] = useState(false);
  const [next, setNext] = useState('');
  const [wrong, setWrong] = useState('');
  const change = useMutation({
    mutationFn: (current: string) => changePassword(current, next),
    onSuccess: () => {
      setOpen(false);
      setNext('');
    },
  });
  return (
    <Part title="Password" aside="">
      {change.isSuccess && !open ? (
        <Notice kind="good" title="Your password is changed.">
          You were signed out on all other devices.
        </Notice>
      ) : null}
      {open ? (
        <AskedPassword
          words="Change the password"
          busy={change.isPending}
          problem={change.error && problemOf(change.error)}
          onGo={(current) => {
            const result = Password.safeParse(next);
            setWrong(result.error?.issues[0]?.message ?? '');
            if (result.success) change.mutate(current);
          }}
          onCancel={() => setOpen(false)}
        >
          <NewPasswordField value={next} error={wrong} onChange={setNext} />
        </AskedPassword>
      ) : (
        <Button kind="second" className="self-start" onPress={() => setOpen(true)}>
          Change the password
        </Button>
      )}
    </Part>
  );
}

function Ending({ account: { goes, stays } }: { account: AccountView }) {
  const [open, setOpen] = useState(false);
  const leave = useMutation({ mutationFn: leaveForGood });
  return (
    <Part title="Take it with you, or end it" aside="">
      <Text>Everything that is stored about you, as a file (JSON):</Text>
      <Button
        kind="second"
        className="self-start"
        onPress={() => globalThis.location.assign('/api/account/archive')}
      >
        Save what is stored about me
      </Button>
      {open ? (
        <View className="gap-2 rounded-xl bg-sheet p-4">
          <Text kind="strong">Delete your account?</Text>
          <Text>
            Your name, address, settings and notes go, and calendars that only you see.
            {goes.length
              ? ` ${plural(goes.length, 'schedule')} that nobody else keeps go with it: ${goes.join(', ')}.`
              : ''}
            {stays.length
              ? ` What you have added to ${stays.join(', ')} stays with those who keep ${stays.length === 1 ? 'it' : 'them'}.`
              : ''}
          </Text>
          <Text>You are signed out at once. For seven days you can take it back by signing in.</Text>
          <AskedPassword
            words="Delete my account"
            busy={leave.isPending}
            problem={leave.error && problemOf(leave.error)}
            onGo={(password) => leave.mutate(password)}
            onCancel={() => setOpen(false)}
          />
        </View>
      ) : (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setOpen(true)}>
          Delete my account
        </Button>
      )}
    </Part>
  );
}
