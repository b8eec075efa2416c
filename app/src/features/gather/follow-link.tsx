import { Address, type NewCalendar, type Preview } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from '@/router';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { z } from 'zod';
import { call, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { NewCalendarForm } from './new-calendar-form';
import { PreviewCard } from './preview-card';

/** Following a link: paste it, look at what was found, name it, save. Nothing is saved before that. */
export function FollowLink() {
  const { learner, viewer } = useLearner()!;
  const [preview, setPreview] = useState<{ address: string; found: Preview } | null>(null);
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-5 px-4 pb-10 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <Text kind="display" heading={1}>
        Follow a link
      </Text>
      <AddressForm
        learnerId={learner.id}
        zone={learner.zone}
        onFound={(address, found) => setPreview({ address, found })}
        onOther={() => setPreview(null)}
      />
      {preview ? (
        <>
          <PreviewCard preview={preview.found} viewer={viewer} />
          {preview.found.alreadyFollowed ? (
            <Notice
              kind="warning"
              title={`You already follow this link, as “${preview.found.alreadyFollowed}”.`}
            >
              There is nothing to do.
            </Notice>
          ) : (
            <SaveForm
              key={preview.address}
              learnerId={learner.id}
              zone={learner.zone}
              address={preview.address}
              preview={preview.found}
            />
          )}
        </>
      ) : null}
    </ScrollView>
  );
}

const AddressInput = z.object({ address: Address });

function AddressForm({
  learnerId,
  zone,
  onFound,
  onOther,
}: {
  learnerId: string;
  zone: string;
  onFound(address: string, found: Preview): void;
  onOther(): void;
}) {
  const { control, handleSubmit } = useForm<z.infer<typeof AddressInput>>({
    resolver: zodResolver(AddressInput),
    defaultValues: { address: '' },
  });
  const look = useMutation({
    mutationFn: (address: string) => call('preview', { params: { learnerId }, body: { address, zone } }),
    onSuccess: (found, address) => onFound(address, found),
  });
  const problem = look.error && problemOf(look.error);
  const submit = handleSubmit(({ address }) => {
    onOther();
    look.mutate(address);
  });
  return (
    <View className="gap-3">
      <Controller
        control={control}
        name="address"
        render={({ field, fieldState }) => (
          <Field
            label="The calendar’s link"
            hint="It begins with https:// or webcal:// and often ends in .ics"
            error={fieldState.error?.message}
            type="text"
            inputMode="url"
            autoComplete="off"
            autoCapitalize="none"
            spellCheck={false}
            autoFocus
            {...field}
            onKeyDown={(e) => {
              if (e.key === 'Enter') void submit();
            }}
          />
        )}
      />
      <Button busy={look.isPending} onPress={() => void submit()} className="self-start">
        Check what’s in it
      </Button>
      {look.isPending ? <Text role="status">Reading the calendar …</Text> : null}
      {problem ? (
        <Notice kind="trouble" title={problem.title}>
          <Text>
            {problem.remedy} {problem.status === 422 ? 'Nothing was saved.' : ''}
          </Text>
        </Notice>
      ) : null}
    </View>
  );
}

function SaveForm({
  learnerId,
  zone,
  address,
  preview,
}: {
  learnerId: string;
  zone: string;
  address: string;
  preview: Preview;
}) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (input: NewCalendar) =>
      call('follow', { params: { learnerId }, body: { ...input, address } }),
    onSuccess: async () => {
      await refreshLearner(client, learnerId);
      router.replace('/gather');
    },
  });
  return (
    <NewCalendarForm
      learnerId={learnerId}
      zone={zone}
      preview={preview}
      otherwise=""
      words="Follow this calendar"
      busy={save.isPending}
      error={save.error}
      onSave={(input) => save.mutate(input)}
    />
  );
}
