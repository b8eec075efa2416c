import { NewLearner } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { ScrollView } from 'react-native';
import type { z } from 'zod';
import { call, problemOf } from '@/data/client';
import { keys } from '@/data/queries';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { ZoneField } from '@/ui/date-field';
import { FormField, FormPicker } from '@/ui/form-field';

/** The second step after a new account: whose schedule it is, and in which time zone they live. */
export function FirstLearner({ name }: { name: string }) {
  const client = useQueryClient();
  const { control, handleSubmit } = useForm<z.infer<typeof NewLearner>>({
    resolver: zodResolver(NewLearner),
    defaultValues: { name, zone: Intl.DateTimeFormat().resolvedOptions().timeZone },
  });
  const begin = useMutation({
    mutationFn: (body: z.infer<typeof NewLearner>) => call('addLearner', { body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.session }),
  });
  const problem = begin.error && problemOf(begin.error);
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-12"
    >
      <Text kind="display" heading={1}>
        Whose schedule?
      </Text>
      <Text className="text-ink2">
        Your own, or that of the learner you look after. More can be added later.
      </Text>
      <FormField control={control} name="name" label="The learner’s name" />
      <FormPicker as={ZoneField} control={control} name="zone" label="Time zone" />
      <ProblemNotice problem={problem} />
      <Button
        busy={begin.isPending}
        onPress={() => void handleSubmit((input) => begin.mutate(input))()}
        className="self-start"
      >
        Start
      </Button>
    </ScrollView>
  );
}
