import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useForm, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { CalendarReminders } from './calendar-reminders';
import { CalendarFields, CalendarInput, inputOf } from './calendar-fields';

/** Changes what a calendar is called, what it is of, its zone, colour and flag. */
export function ChangeCalendar({
  calendar,
  isCopy,
  onDone,
}: {
  calendar: CalendarView;
  isCopy: boolean;
  onDone(): void;
}) {
  const client = useQueryClient();
  const { control, formState, handleSubmit } = useForm<CalendarInput>({
    resolver: zodResolver(CalendarInput),
    defaultValues: inputOf(calendar),
  });
  const { dirtyFields } = formState;
  const zone = useWatch({ control, name: 'zone' });
  const save = useMutation({
    // What somebody else has changed meanwhile, and what is left alone here, stays theirs.
    mutationFn: (input: CalendarInput) =>
      call('changeCalendar', { params: { id: calendar.id }, body: changedOf(input, dirtyFields) }),
    onSuccess: async () => {
      await refreshLearner(client, calendar.learnerId);
      onDone();
    },
  });
  const problem = save.error && problemOf(save.error);
  return (
    <View className="gap-4 border-t border-line pt-3">
      <CalendarFields control={control} />
      <CalendarReminders calendar={calendar} />
      {isCopy && zone !== calendar.zone ? (
        <Text kind="small">Then read the file again, so that times without a known zone follow.</Text>
      ) : null}
      <ProblemNotice problem={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} onPress={() => void handleSubmit((input) => save.mutate(input))()}>
          Save
        </Button>
        <Button kind="second" onPress={onDone}>
          Cancel
        </Button>
      </View>
    </View>
  );
}

const changedOf = (input: CalendarInput, dirty: object): Partial<CalendarInput> =>
  Object.fromEntries(Object.entries(input).filter(([name]) => name in dirty));
