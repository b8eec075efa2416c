import { NewCalendar, type CalendarView } from '@zephyrfield/core/api/schemas';
import { lettersAfter } from '@zephyrfield/core/item/flag';
import { CALENDAR_KINDS, type CalendarKind } from '@zephyrfield/core/item/kind';
import { Controller, useController, useWatch, type Control } from 'react-hook-form';
import { View } from 'react-native';
import type { z } from 'zod';
import { FlagChooser } from './flag-chooser';
import { ZoneField } from '@/ui/date-field';
import { Field } from '@/ui/field';
import { FormChoice, FormField, FormPicker } from '@/ui/form-field';

export const CalendarInput = NewCalendar.pick({
  name: true,
  kind: true,
  colour: true,
  flag: true,
  zone: true,
}).extend({ category: NewCalendar.shape.category.unwrap() });
export type CalendarInput = z.infer<typeof CalendarInput>;

export const inputOf = ({ name, kind, category, colour, flag, zone }: CalendarView): CalendarInput => ({
  name,
  kind,
  category,
  colour,
  flag,
  zone,
});

const KIND_WORDS: Record<CalendarKind, string> = {
  course: 'a course',
  group: 'a group or club',
  school: 'the whole school',
  home: 'home and family',
  own: 'something else',
};

const CATEGORIES = ['Music', 'Training', 'Errands', 'Work', 'Faith', 'Volunteering'];

/**
 * What a person gives a calendar: a name, what it is of, a zone, a colour and a flag. Of several at once,
 * only what they share.
 */
export function CalendarFields({
  control,
  several = false,
}: {
  control: Control<CalendarInput>;
  several?: boolean;
}) {
  const kind = useWatch({ control, name: 'kind' });
  return (
    <View className="gap-4">
      {several ? null : <Name control={control} />}
      <FormChoice
        control={control}
        name="kind"
        label={several ? 'What they are for' : 'What it is for'}
        options={CALENDAR_KINDS.map((value) => ({
          value,
          words: several && value === 'course' ? 'courses' : KIND_WORDS[value],
        }))}
      />
      {kind === 'own' ? (
        <FormField
          control={control}
          name="category"
          label="Category"
          hint="Say music, training or errands"
          suggestions={CATEGORIES}
        />
      ) : null}
      <FormPicker as={ZoneField} control={control} name="zone" label="Times without a time zone are in" />
      {several ? null : (
        <Controller
          control={control}
          name="flag"
          render={({ field: flag, fieldState }) => (
            <Controller
              control={control}
              name="colour"
              render={({ field: colour }) => (
                <FlagChooser
                  flag={flag.value}
                  colour={colour.value}
                  error={fieldState.error}
                  onFlag={flag.onChange}
                  onColour={colour.onChange}
                />
              )}
            />
          )}
        />
      )}
    </View>
  );
}

/** What it is called; its flag's letters follow. */
function Name({ control }: { control: Control<CalendarInput> }) {
  const { field: name, fieldState } = useController({ control, name: 'name' });
  const { field: flag } = useController({ control, name: 'flag' });
  return (
    <Field
      label="Name"
      error={fieldState.error?.message}
      {...name}
      onChange={(e) => {
        const next = e.currentTarget.value;
        const letters = lettersAfter(flag.value.letters, name.value, next);
        if (letters !== flag.value.letters) flag.onChange({ ...flag.value, letters });
        name.onChange(next);
      }}
    />
  );
}
