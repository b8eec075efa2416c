import { Address, type NewCalendar, type Preview } from '@zephyrfield/core/api/schemas';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from '@/router';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { z } from 'zod';
import { call, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { NeedsConnection } from '@/ui/needs-connection';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { FormField } from '@/ui/form-field';
import { NewCalendarForm } from './new-calendar-form';
import { useArrived } from './past-work';
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
      <PlaceHead title="Follow a link" />
      <NeedsConnection />
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

/** The address that the page was opened with, if any. */
function given(): string {
  try {
    return decodeURIComponent(globalThis.location.hash.slice(1));
  } catch {
    return '';
  }
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
    // A page that goes out leads here with its address behind the `#`.
    defaultValues: { address: given() },
  });
  const look = useMutation({
    mutationFn: (address: string) => call('preview', { params: { learnerId }, body: { address, zone } }),
    onSuccess: (found, address) => onFound(address, found),
  });
  const [helps, setHelps] = useState(false);
  const problem = look.error && problemOf(look.error);
  const submit = handleSubmit(({ address }) => {
    onOther();
    look.mutate(address);
  });
  return (
    <View className="gap-3">
      <FormField
        control={control}
        name="address"
        label="The calendar’s link"
        hint="It begins with https:// or webcal:// and often ends in .ics"

        type="text"
        inputMode="url"
        autoComplete="off"
        autoCapitalize="none"
        spellCheck={false}
        autoFocus

        onKeyDown={(e) => {
          if (e.key === 'Enter') void submit();
        }}
      />
      <View className="flex-row flex-wrap items-center gap-x-4">
        <Button busy={look.isPending} onPress={() => void submit()}>
          Check what’s in it
        </Button>
        <Button kind="quiet" aria-expanded={helps} onPress={() => setHelps(!helps)}>
          Where do I find it?
        </Button>
      </View>
      {helps ? <WhereToLook /> : null}
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

const PLACES: readonly (readonly [string, string])[] = [
  ['Open the calendar of your course', 'On the course page, or on the page that lists all your courses.'],
  [
    'Look for its link',
    'At the foot of the calendar, in its menu, or in its settings. It may be called “calendar feed”, “subscribe”, “export”, “iCal” or “get calendar link”.',
  ],
  [
    'Copy the link',
    'Copy its address; do not open it. It begins with https:// or webcal://, often ends in .ics, and may hold a long run of letters that is yours alone.',
  ],
  [
    'Only a file to download?',
    'Then choose “Read files” on the Gather page. A file does not update by itself.',
  ],
];

/** How to find a calendar's link on a course site, in words that fit most of them. */
function WhereToLook() {
  return (
    <View role="list" aria-label="Where to find the link" className="gap-2 rounded-xl bg-sheet p-4">
      {PLACES.map(([step, how]) => (
        <View role="listitem" key={step}>
          <Text kind="strong">{step}</Text>
          <Text className="text-ink2">{how}</Text>
        </View>
      ))}
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
    onSuccess: async ({ source }) => {
      await refreshLearner(client, learnerId);
      useArrived.getState().arrived(source.calendarIds);
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
