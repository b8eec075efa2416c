import { ruleWords, type RemindRule } from '@zephyrfield/core/notify/rules';
import X from 'lucide-react-native/icons/x';
import { useState } from 'react';
import { View } from 'react-native';
import { Button, IconButton } from './button';
import { Choice, Field } from './field';
import { Text } from './text';
import { MomentField } from './date-field';

const OFFERED: readonly RemindRule[] = [
  { kind: 'ahead', minutes: 0 },
  { kind: 'ahead', minutes: 5 },
  { kind: 'ahead', minutes: 15 },
  { kind: 'ahead', minutes: 30 },
  { kind: 'ahead', minutes: 60 },
  { kind: 'ahead', minutes: 180 },
  { kind: 'day', days: 0, minute: 480 },
  { kind: 'day', days: 1, minute: 1080 },
  { kind: 'day', days: 2, minute: 1080 },
  { kind: 'day', days: 3, minute: 1080 },
  { kind: 'day', days: 7, minute: 1080 },
];
const UNITS = { minutes: 1, hours: 60, days: 1440 } as const;

interface Props {
  /** Whose they are, for screen readers */
  label: string;
  rules: readonly RemindRule[];
  hours: 12 | 24;
  /** For one item there may be a moment of its own */
  withMoment?: boolean;
  onChange(rules: RemindRule[]): void;
}

/** Reminders as a list of words, with a way to add one and to take one away. */
export function ReminderRules({ label, rules, hours, withMoment = false, onChange }: Props) {
  const [adding, setAdding] = useState<'' | 'ahead' | 'moment'>('');
  const [count, setCount] = useState('45');
  const [unit, setUnit] = useState<keyof typeof UNITS>('minutes');
  const [moment, setMoment] = useState('');
  const has = (rule: RemindRule) => rules.some((r) => JSON.stringify(r) === JSON.stringify(rule));
  const add = (rule: RemindRule) => {
    setAdding('');
    if (!has(rule)) onChange([...rules, rule]);
  };
  const minutes = Math.round(Number(count) * UNITS[unit]);
  const isRight = count !== '' && minutes >= 0 && minutes <= 60 * 1440;
  return (
    <View role="group" aria-label={label} className="gap-1">
      {rules.map((rule) => (
        <View key={JSON.stringify(rule)} className="flex-row items-center gap-2">
          <Text className="flex-1">{ruleWords(rule, hours)}</Text>
          <IconButton
            icon={X}
            label={`No reminder ${ruleWords(rule, hours)}`}
            onPress={() => onChange(rules.filter((r) => r !== rule))}
          />
        </View>
      ))}
      {rules.length === 0 ? <Text kind="small">No reminder.</Text> : null}
      <Choice
        label="Add a reminder"
        value=""
        disabled={rules.length >= 8}
        onChange={(e) => {
          const { value } = e.currentTarget;
          if (value === 'ahead' || value === 'moment') setAdding(value);
          else if (value) add(JSON.parse(value) as RemindRule);
        }}
        options={[
          { value: '', words: 'when …' },
          ...OFFERED.filter((r) => !has(r)).map((r) => ({
            value: JSON.stringify(r),
            words: ruleWords(r, hours),
          })),
          { value: 'ahead', words: 'some time before …' },
          ...(withMoment ? [{ value: 'moment', words: 'at a date and time …' }] : []),
        ]}
      />
      {adding === 'ahead' ? (
        <View className="flex-row items-end gap-2">
          <View className="w-[90px]">
            <Field
              label="How many"
              type="number"
              min={0}
              value={count}
              error={isRight ? undefined : 'Up to 60 days.'}
              onChange={(e) => setCount(e.currentTarget.value)}
            />
          </View>
          <View className="flex-1">
            <Choice
              label="before"
              value={unit}
              onChange={(e) => setUnit(e.currentTarget.value as keyof typeof UNITS)}
              options={Object.keys(UNITS).map((value) => ({ value, words: value }))}
            />
          </View>
          <Button kind="second" disabled={!isRight} onPress={() => add({ kind: 'ahead', minutes })}>
            Add
          </Button>
        </View>
      ) : null}
      {adding === 'moment' ? (
        <View className="flex-row items-end gap-2">
          <View className="min-w-0 flex-1">
            <MomentField label="At" value={moment} onChange={setMoment} />
          </View>
          <Button
            kind="second"
            disabled={!moment}
            onPress={() => add({ kind: 'moment', local: `${moment}:00` })}
          >
            Add
          </Button>
        </View>
      ) : null}
    </View>
  );
}
