import { FollowRequest, type CalendarView } from '@zephyrfield/core/api/schemas';
import { CALENDAR_SORTS, type CalendarSort } from '@zephyrfield/core/item/sort';
import { Controller, type Control } from 'react-hook-form';
import { View } from 'react-native';
import type { z } from 'zod';
import { Choice, Field } from '@/ui/field';
import { FlagChooser } from './flag-chooser';

export const CalendarInput = FollowRequest.pick({ name: true, sort: true, colour: true, flag: true });
export type CalendarInput = z.infer<typeof CalendarInput>;

export const inputOf = ({ name, sort, colour, flag }: CalendarView): CalendarInput => ({ name, sort, colour, flag });

const SORT_WORDS: Record<CalendarSort, string> = { course: 'a course', group: 'a group or club', school: 'the whole school', home: 'home and family' };

/** What a person gives a calendar: a name, what it is of, a colour and a flag. */
export function CalendarFields({ control }: { control: Control<CalendarInput> }) {
  return (
    <View className="gap-4">
      <Controller control={control} name="name" render={({ field, fieldState }) => <Field label="What you call it" error={fieldState.error?.message} {...field} />} />
      <Controller
        control={control}
        name="sort"
        render={({ field }) => <Choice label="It is the calendar of" options={CALENDAR_SORTS.map((value) => ({ value, words: SORT_WORDS[value] }))} {...field} />}
      />
      <Controller
        control={control}
        name="flag"
        render={({ field: flag, fieldState }) => (
          <Controller
            control={control}
            name="colour"
            render={({ field: colour }) => <FlagChooser flag={flag.value} colour={colour.value} error={fieldState.error} onFlag={flag.onChange} onColour={colour.onChange} />}
          />
        )}
      />
    </View>
  );
}
