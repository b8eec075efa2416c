import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Button } from './button';
import { Field } from './field';
import { ProblemNotice } from './notice';

interface Props {
  /** What the button says */
  words: string;
  busy: boolean;
  problem: { title: string; remedy?: string | undefined } | null;
  onGo(password: string): void;
  onCancel(): void;
  /** What else is asked */
  children?: ReactNode;
}

/** Asks for the password before something is done that is not done without it. */
export function AskedPassword({ words, busy, problem, onGo, onCancel, children }: Props) {
  const [password, setPassword] = useState('');
  const go = () => password && onGo(password);
  return (
    <View className="gap-3 pb-2 pt-1">
      {children}
      <Field
        label="Your password"
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(e) => setPassword(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') go();
        }}
      />
      <ProblemNotice problem={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={busy} disabled={!password} onPress={go}>
          {words}
        </Button>
        <Button kind="second" onPress={onCancel}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
