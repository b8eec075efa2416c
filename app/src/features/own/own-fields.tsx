import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { HAND_IN_WAYS, isWork } from '@zephyrfield/core/item/kind';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { daysAway, longDay } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { Controller, type Control } from 'react-hook-form';
import { Pressable, View } from 'react-native';
import { Button } from '@/ui/button';
import { choiceBox, choiceWords } from '@/ui/choices';
import { WASH } from '@/ui/colours';
import { DateField, TimeField } from '@/ui/date-field';
import { Choice } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';
import { FormChoice, FormField, FormPicker } from '@/ui/form-field';
import { PURPOSES, PURPOSE_KINDS, PURPOSE_WORDS, type Fields, type Purpose } from './form';
import { NewCalendar } from './new-calendar';

interface Part {
  control: Control<Fields>;
  fields: Fields;
}

const isSpan = ({ purpose }: Fields) => purpose === 'long' || purpose === 'off';

/** The calendar it goes to, in its colours, and all of it said back. */
export function Head({
  calendar,
  whose,
  isChange,
  fields,
  day,
  today,
}: {
  calendar: CalendarView | undefined;
  /** The learner's first name, where there are several; else empty */
  whose: string;
  isChange: boolean;
  fields: Fields;
  /** Day numbers */
  day: number | null;
  today: number;
}) {
  const { kind, time, minutes, purpose } = fields;
  const when =
    day === null
      ? 'no date yet'
      : `${isWork(kind) ? 'due ' : ''}${longDay(day)}${time && !isSpan(fields) ? `, ${time}` : ''} · ${daysAway(day, today)}`;
  const title = isChange
    ? `Change in ${calendar?.name ?? ''}`
    : calendar
      ? `Into ${calendar.name}`
      : 'Into which calendar?';
  const of = whose ? `For ${whose}` : '';
  return (
    <View
      className={`-mx-5 -mt-5 gap-1 px-5 pb-3 pr-14 pt-5 ${calendar ? WASH[calendar.colour] : 'bg-paper'}`}
    >
      <View className="flex-row items-center gap-3">
        {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={26} /> : null}
        <Text kind="title" heading={2} className="flex-1">
          {title}
        </Text>
      </View>
      <Text kind="small">
        {[of, KIND_WORDS[kind], when, minutes && purpose === 'do' ? `${minutes} min` : null]
          .filter(Boolean)
          .join(' · ')}
      </Text>
    </View>
  );
}

/** What one adds something for: it decides which fields there are. */
export function PurposeChoice({ value, onChange }: { value: Purpose; onChange(purpose: Purpose): void }) {
  return (
    <View role="radiogroup" aria-label="What it is for" className="flex-row flex-wrap gap-x-1">
      {PURPOSES.map((purpose) => (
        <Pressable
          key={purpose}
          role="radio"
          aria-checked={value === purpose}
          tabIndex={value === purpose ? 0 : -1}
          onPress={() => purpose !== value && onChange(purpose)}
          className={choiceBox(value === purpose)}
        >
          <Text className={choiceWords(value === purpose)}>{PURPOSE_WORDS[purpose]}</Text>
        </Pressable>
      ))}
    </View>
  );
}

/** Which calendar it goes to, or a new one. */
export function CalendarChoice({
  control,
  calendars,
  learnerId,
  zone,
  onMade,
}: {
  control: Control<Fields>;
  calendars: readonly CalendarView[];
  learnerId: string;
  zone: string;
  onMade(id: string): void;
}) {
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Controller
        control={control}
        name="calendarId"
        render={({ field, fieldState }) => (
          <Choice
            label="Calendar"
            error={fieldState.error?.message}
            options={[
              ...(field.value ? [] : [{ value: '', words: 'choose …' }]),
              ...calendars.map((c) => ({ value: c.id, words: c.name })),
            ]}
            {...field}
          />
        )}
      />
      {adding ? (
        <NewCalendar
          learnerId={learnerId}
          zone={zone}
          flying={calendars}
          onMade={(id) => (onMade(id), setAdding(false))}
        />
      ) : (
        <Button kind="quiet" onPress={() => setAdding(true)} className="-ml-4 -mt-3 self-start">
          New calendar …
        </Button>
      )}
    </>
  );
}

/** Which of its purpose's kinds it is, where there are several. */
export function KindChoice({ control, fields }: Part) {
  const kinds = PURPOSE_KINDS[fields.purpose];
  if (kinds.length < 2) return null;
  return (
    <FormChoice
      control={control}
      name="kind"
      label="It is"
      options={kinds.map((value) => ({
        value,
        words: `a${value === 'assignment' ? 'n' : ''} ${KIND_WORDS[value]}`,
      }))}
    />
  );
}

/** When it is: a day and an hour, from and to, or days on end. */
export function WhenFields({ control, fields }: Part) {
  const picked = (Picker: typeof DateField, name: 'day' | 'lastDay' | 'time' | 'until', label: string) => (
    <FormPicker as={Picker} control={control} name={name} label={label} />
  );
  const { purpose } = fields;
  const span = isSpan(fields);
  return (
    <View className="flex-row flex-wrap gap-3">
      <View className="min-w-[230px] flex-1">
        {picked(DateField, 'day', purpose === 'do' ? 'Due on' : span ? 'First day' : 'On')}
      </View>
      <View className={`flex-1 ${span ? 'min-w-[230px]' : 'min-w-[140px]'}`}>
        {span
          ? picked(DateField, 'lastDay', 'Last day')
          : picked(TimeField, 'time', purpose === 'be' ? 'From' : 'At')}
      </View>
      {purpose === 'be' ? (
        <View className="min-w-[140px] flex-1">{picked(TimeField, 'until', 'To')}</View>
      ) : null}
    </View>
  );
}

/** How work is handed in and, for what is new, how long it takes. */
export function WorkFields({ control, isNew }: { control: Control<Fields>; isNew: boolean }) {
  return (
    <View className="flex-row gap-3">
      <View className="min-w-0 flex-1">
        <FormChoice
          control={control}
          name="handIn"
          label="Handing in"
          options={HAND_IN_WAYS.map((value) => ({ value, words: HAND_IN_WORDS[value] }))}
        />
      </View>
      {isNew ? (
        <View className="w-[110px]">
          <FormField
            control={control}
            name="minutes"
            label="Minutes of work"
            type="number"
            min={0}
            step={5}
          />
        </View>
      ) : null}
    </View>
  );
}
