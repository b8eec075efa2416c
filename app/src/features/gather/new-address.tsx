import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { AddressChange, type SourceView } from '@zephyrfield/core/api/schemas';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import type { z } from 'zod';
import { call, problemOf } from '@/data/client';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { FormField } from '@/ui/form-field';
import { ProblemNotice } from '@/ui/notice';

interface Props {
  source: SourceView;
  learnerId: string;
  onDone(): void;
}

/** Another link for a calendar that is followed already. */
export function NewAddress({ source, learnerId, onDone }: Props) {
  const client = useQueryClient();
  const { control, handleSubmit } = useForm<z.infer<typeof AddressChange>>({
    resolver: zodResolver(AddressChange),
    defaultValues: { address: '' },
  });
  const save = useMutation({
    mutationFn: (body: z.infer<typeof AddressChange>) =>
      call('changeAddress', { params: { id: source.id }, body }),
    onSuccess: onDone,
    onSettled: () => refreshLearner(client, learnerId),
  });
  const problem = save.error && problemOf(save.error);
  const submit = handleSubmit((body) => save.mutate(body));
  return (
    <View className="gap-3 border-t border-line pt-3">
      <FormField
        control={control}
        name="address"
        label="Its new link"
        hint="What is ticked off and noted stays."
        type="text"
        inputMode="url"
        autoComplete="off"
        autoCapitalize="none"
        spellCheck={false}
        onKeyDown={(e) => {
          if (e.key === 'Enter') void submit();
        }}
      />
      <ProblemNotice problem={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} onPress={() => void submit()}>
          Follow this link
        </Button>
        <Button kind="quiet" onPress={onDone}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
