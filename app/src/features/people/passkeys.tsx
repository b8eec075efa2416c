import type { AccountView } from '@zephyrfield/core/api/account-view';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { hasPasskeys, makePasskey, removePasskey } from '@/data/passkeys';
import { AskedPassword } from '@/ui/asked-password';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { dayHere } from './day-here';

/** Passkeys: signing in by the lock of a device in place of the password. */
export function Passkeys({ passkeys }: { passkeys: AccountView['passkeys'] }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const make = useMutation({
    mutationFn: (password: string) => makePasskey(name.trim() || 'This device', password),
    onSuccess: () => setOpen(false),
  });
  const remove = useMutation({ mutationFn: removePasskey });
  return (
    <Part title="Passkeys" aside="">
      <Text className="text-ink2">
        Sign in by the lock of your phone or computer. Nothing secret leaves it.
      </Text>
      <ProblemNotice problem={remove.error && problemOf(remove.error)} />
      {passkeys.map((key) => (
        <View
          key={key.id}
          role="group"
          aria-label={key.name}
          className="flex-row items-center gap-3 border-b border-dashed border-line py-1"
        >
          <View className="min-w-0 flex-1">
            <Text kind="strong">{key.name}</Text>
            <Text kind="small">{`since ${dayHere(key.since)}`}</Text>
          </View>
          <Button
            kind="quiet"
            className="px-2"
            busy={remove.isPending && remove.variables === key.id}
            aria-label={`Forget the passkey ${key.name}`}
            onPress={() => remove.mutate(key.id)}
          >
            Forget
          </Button>
        </View>
      ))}
      {open ? (
        <AskedPassword
          words="Make the passkey"
          busy={make.isPending}
          problem={make.error && problemOf(make.error)}
          onGo={(password) => make.mutate(password)}
          onCancel={() => setOpen(false)}
        >
          <Field
            label="What you call it"
            placeholder="My phone"
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
          />
        </AskedPassword>
      ) : hasPasskeys() ? (
        <Button kind="second" className="self-start" onPress={() => setOpen(true)}>
          Make a passkey
        </Button>
      ) : (
        <Text kind="small">This browser cannot make one at this address: it needs https.</Text>
      )}
    </Part>
  );
}
