import { NewLearner } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { z } from 'zod';
import { call, problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { keys } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { ProblemNotice } from '@/ui/notice';
import { ZoneField } from '@/ui/date-field';
import { FormField, FormPicker } from '@/ui/form-field';

interface Props {
  /** What stands in its field to begin with */
  name: string;
  /** What the button says */
  words: string;
  onDone?: () => void;
}

const WHOSE = [
  ['own', 'my own'],
  ['other', 'a learner’s I look after'],
] as const;

/** Whose schedule it is, and in which time zone they live. */
export function LearnerForm({ name, words, onDone }: Props) {
  const client = useQueryClient();
  const { control, handleSubmit, setValue } = useForm<z.infer<typeof NewLearner>>({
    resolver: zodResolver(NewLearner),
    defaultValues: { name, zone: Intl.DateTimeFormat().resolvedOptions().timeZone },
  });
  const [key] = useState(newKey);
  const [isSelf, setSelf] = useState(Boolean(name));
  const begin = useMutation({
    mutationFn: (body: z.infer<typeof NewLearner>) => call('addLearner', { body: { ...body, isSelf, key } }),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keys.session });
      onDone?.();
    },
  });
  const problem = begin.error && problemOf(begin.error);
  return (
    <>
      {name ? (
        <Choices
          label="Whose schedule it is"
          all={WHOSE}
          value={isSelf ? 'own' : 'other'}
          onChange={(v) => {
            setSelf(v === 'own');
            setValue('name', v === 'own' ? name : '');
          }}
        />
      ) : null}
      <FormField control={control} name="name" label="The learner’s name" />
      <FormPicker as={ZoneField} control={control} name="zone" label="Time zone" />
      <ProblemNotice problem={problem} />
      <Button
        busy={begin.isPending}
        onPress={() => void handleSubmit((input) => begin.mutate(input))()}
        className="self-start"
      >
        {words}
      </Button>
    </>
  );
}
