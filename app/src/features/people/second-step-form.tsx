import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { takeSecondStep } from '@/data/auth';
import { problemOf } from '@/data/client';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';

/** The second step at signing in: the code an app shows just now, or a recovery code. */
export function SecondStepForm({ onDone, onBack }: { onDone?(): void; onBack(): void }) {
  const [code, setCode] = useState('');
  const take = useMutation({ mutationFn: takeSecondStep, onSuccess: onDone });
  const go = () => code.trim() && take.mutate(code);
  return (
    <View className="gap-4">
      <Text className="text-ink2">
        Type the code that your app shows just now. If you do not have it with you, type one of your recovery
        codes.
      </Text>
      <Field
        label="Code"
        value={code}
        autoComplete="one-time-code"
        autoFocus
        spellCheck={false}
        maxLength={20}
        onChange={(e) => setCode(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') go();
        }}
      />
      <ProblemNotice problem={take.error && problemOf(take.error)} />
      <View className="flex-row gap-2">
        <Button busy={take.isPending} onPress={go}>
          Sign in
        </Button>
        <Button kind="second" onPress={onBack}>
          Back
        </Button>
      </View>
    </View>
  );
}
