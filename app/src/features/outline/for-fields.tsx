import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { View } from 'react-native';
import { DateField, ZoneField } from '@/ui/date-field';
import { Choices } from '@/ui/choices';
import { Choice, Field } from '@/ui/field';
import { Text } from '@/ui/text';

export type Order = 'dmy' | 'mdy';

/** What an outline is for: the calendar, its zone, the term, and where nothing else tells, the order of numbers. */
export interface For {
  /** Empty for a new calendar */
  calendarId: string;
  name: string;
  zone: string;
  from: string;
  to: string;
  order: Order | null;
}

interface Props {
  value: For;
  calendars: readonly CalendarView[];
  /** It is known which calendar it is */
  isFixed: boolean;
  onChange(to: Partial<For>): void;
}

export function ForFields({ value, calendars, isFixed, onChange }: Props) {
  return (
    <View role="group" aria-label="What it is for" className="gap-3">
      <View className="gap-3 wide:flex-row">
        {isFixed ? null : (
          <View className="flex-1">
            <Choice
              label="Into"
              value={value.calendarId}
              options={[
                ...calendars.map((c) => ({ value: c.id, words: c.name })),
                { value: '', words: 'a new calendar' },
              ]}
              onChange={(e) => onChange({ calendarId: e.currentTarget.value })}
            />
          </View>
        )}
        {value.calendarId || isFixed ? null : (
          <View className="flex-1">
            <Field
              label="What it is called"
              value={value.name}
              maxLength={80}
              onChange={(e) => onChange({ name: e.currentTarget.value })}
            />
          </View>
        )}
      </View>
      <View className="gap-3 wide:flex-row">
        <View className="flex-1">
          <DateField label="The term begins" value={value.from} onChange={(from) => onChange({ from })} />
        </View>
        <View className="flex-1">
          <DateField label="The term ends" value={value.to} onChange={(to) => onChange({ to })} />
        </View>
        {value.calendarId || isFixed ? null : (
          <View className="flex-1">
            <ZoneField label="Time zone" value={value.zone} onChange={(zone) => onChange({ zone })} />
          </View>
        )}
      </View>
    </View>
  );
}

/** The one question that a text may leave open. */
export function WhichOrder({ order, onChange }: { order: Order | null; onChange(order: Order): void }) {
  return (
    <View
      role="group"
      aria-label="Day or month first"
      className="gap-1 rounded-xl bg-marigold-wash px-4 py-3"
    >
      <Text kind="strong">Which comes first in 9/10: the day or the month?</Text>
      <Text>Nothing in the outline says.</Text>
      <Choices<Order | ''>
        label="Which comes first"
        all={[
          ['dmy', 'the day: 9 October'],
          ['mdy', 'the month: September 10'],
        ]}
        value={order ?? ''}
        onChange={(to) => to && onChange(to)}
      />
    </View>
  );
}
