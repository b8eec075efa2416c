import type { NewCalendar, Preview, SplitRequest } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { CalendarFields, CalendarInput } from './calendar-fields';
import { SplitChooser } from './split-chooser';

interface Props {
  learnerId: string;
  zone: string;
  preview: Preview;
  /** What the calendar is called where the feed does not say */
  otherwise: string;
  words: string;
  busy: boolean;
  error: Error | null;
  onSave(input: NewCalendar): void;
}

/**
 * What a person decides before a calendar is saved: one or several, names, what it is of, colour and flag.
 */
export function NewCalendarForm({ learnerId, zone, preview, otherwise, words, busy, error, onSave }: Props) {
  const flying = useCalendars(learnerId).data ?? [];
  const name = preview.name?.trim() || otherwise;
  const [split, setSplit] = useState<SplitRequest | null>(null);
  const [splitErrors, setSplitErrors] = useState<(string | undefined)[]>([]);
  const { control, handleSubmit } = useForm<CalendarInput>({
    resolver: zodResolver(CalendarInput),
    defaultValues: { name, kind: 'course', category: '', zone, ...preview.suggestion },
  });
  const problem = error && problemOf(error);
  const choose = (next: SplitRequest | null) => {
    setSplit(next);
    setSplitErrors([]);
  };
  const submit = () => {
    const errors = split?.sections.map((p) => (p.name.trim() ? undefined : 'Give it a name.')) ?? [];
    setSplitErrors(errors);
    if (errors.some(Boolean)) return;
    void handleSubmit((input) => onSave({ ...input, split }))();
  };
  return (
    <View className="gap-4">
      <SplitChooser
        proposals={preview.splits}
        flying={flying}
        value={split}
        without={name}
        errors={splitErrors}
        onChange={choose}
      />
      <CalendarFields control={control} several={split !== null} />
      <ProblemNotice problem={problem} />
      <Button busy={busy} onPress={submit} className="self-start">
        {words}
      </Button>
    </View>
  );
}
