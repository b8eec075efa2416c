import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { beginSecondStep, confirmSecondStep, endSecondStep } from '@/data/account';
import { problemOf } from '@/data/client';
import { AskedPassword } from '@/ui/asked-password';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Qr } from '@/ui/qr';
import { Text } from '@/ui/text';

/** A second step at signing in: begun with an app, ended with the password. */
export function SecondStep({ isOn }: { isOn: boolean }) {
  const [open, setOpen] = useState(false);
  const begin = useMutation({ mutationFn: beginSecondStep, onSuccess: () => setOpen(false) });
  const end = useMutation({ mutationFn: endSecondStep, onSuccess: () => setOpen(false) });
  const asking = isOn ? end : begin;
  return (
    <Part title="Second step at signing in" aside={isOn ? 'on' : 'off'}>
      {begin.data && !isOn ? (
        <Begun {...begin.data} />
      ) : begin.data && isOn && !open ? (
        <Notice kind="good" title="From now on a code is asked for.">
          Keep the recovery codes where you find them without your phone.
        </Notice>
      ) : (
        <Text className="text-ink2">
          A code from an app on your phone, beside your password: whoever learns your password alone does not
          get in.
        </Text>
      )}
      {open && !begin.data ? (
        <AskedPassword
          words={isOn ? 'End the second step' : 'Begin'}
          busy={asking.isPending}
          problem={asking.error && problemOf(asking.error)}
          onGo={(password) => asking.mutate(password)}
          onCancel={() => setOpen(false)}
        />
      ) : begin.data && !isOn ? null : (
        <Button
          kind="second"
          className="self-start"
          onPress={() => {
            begin.reset();
            setOpen(true);
          }}
        >
          {isOn ? 'End the second step' : 'Begin a second step'}
        </Button>
      )}
    </Part>
  );
}

/** The secret for the app, shown once, and the recovery codes; it counts once a code of it was typed. */
function Begun({ address, codes }: { address: string; codes: string[] }) {
  const [code, setCode] = useState('');
  const confirm = useMutation({ mutationFn: confirmSecondStep });
  const secret = new URL(address).searchParams.get('secret') ?? '';
  const go = () => code.trim() && confirm.mutate(code);
  return (
    <View className="gap-3 rounded-xl bg-sheet p-4">
      <Text>1. Scan this with an app for such codes, or type the secret into it.</Text>
      <Qr text={address} label="The secret as a picture to scan" />
      <Text kind="small" selectable className="[overflow-wrap:anywhere]">
        {secret.match(/.{1,4}/g)?.join(' ')}
      </Text>
      <Text>2. Write these recovery codes down. Each lets you in once, without the app.</Text>
      <View role="list" aria-label="Recovery codes" className="flex-row flex-wrap gap-x-6 gap-y-1">
        {codes.map((each) => (
          <Text key={each} role="listitem" kind="strong" selectable className="w-[130px]">
            {each}
          </Text>
        ))}
      </View>
      <Text>3. Type the code that the app shows now.</Text>
      <Field
        label="Code"
        inputMode="numeric"
        autoComplete="one-time-code"
        maxLength={10}
        value={code}
        onChange={(e) => setCode(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') go();
        }}
      />
      <ProblemNotice problem={confirm.error && problemOf(confirm.error)} />
      <Button busy={confirm.isPending} className="self-start" onPress={go}>
        Use it from now on
      </Button>
    </View>
  );
}
