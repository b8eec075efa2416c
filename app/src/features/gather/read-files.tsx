import type { NewCalendar, Preview, ReadingResult } from '@zephyrfield/core/api/schemas';
import { away } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from '@/router';
import { useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { fileSize } from '@/data/briefs';
import { call, problemOf, sendFile } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Progress } from '@/ui/progress';
import { NeedsConnection } from '@/ui/needs-connection';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { FileDrop } from '@/ui/file-drop';
import { NewCalendarForm } from './new-calendar-form';
import { useArrived } from './past-work';
import { PreviewCard } from './preview-card';
import { useChosenFiles } from './chosen-files';

/**
 * Reading files: choose or drop them, look at what is in each, read them in. Nothing is saved before that.
 */
export function ReadFiles() {
  const { files, add, leaveOut, clear } = useChosenFiles();
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-5 px-4 pb-10 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <View className="gap-1">
        <PlaceHead
          title="Read files"
          says="A file is a copy of that day and does not update by itself. If there is a link, follow that instead."
        />
      </View>
      <NeedsConnection />
      <FileDrop onFiles={add} />
      {files.map(({ key, file }) => (
        <OneFile key={key} file={file} onLeave={() => leaveOut(key)} />
      ))}
      {files.length ? (
        <Button
          kind="second"
          onPress={() => {
            clear();
            router.replace('/gather');
          }}
          className="self-start"
        >
          Back to Gather
        </Button>
      ) : null}
    </ScrollView>
  );
}

/** One file on its way: sent, looked at, read in. */
function OneFile({ file, onLeave }: { file: File; onLeave(): void }) {
  const { learner, viewer } = useLearner()!;
  const client = useQueryClient();
  const [sent, setSent] = useState(0);
  const send = useMutation({
    mutationFn: () =>
      sendFile(
        'sendFile',
        { params: { learnerId: learner.id }, query: { name: file.name, zone: learner.zone }, file },
        setSent,
      ),
  });
  const { mutate } = send;
  useEffect(() => mutate(), [mutate]);
  const onSuccess = () => refreshLearner(client, learner.id);
  const take = useMutation({
    mutationFn: ({ id, input }: { id: string; input: NewCalendar }) =>
      call('takeFile', { params: { id }, body: input }),
    onSuccess: async ({ source }) => {
      await onSuccess();
      useArrived.getState().arrived(source.calendarIds);
    },
  });
  const problem = send.error && problemOf(send.error);
  const preview = send.data;
  return (
    <View className="gap-4 border-t border-line pt-4" role="group" aria-label={file.name}>
      <View className="flex-row items-center gap-3">
        <Text kind="lead" heading={2} className="flex-1" numberOfLines={1}>
          {file.name}
        </Text>
        {take.data ? null : (
          <Button kind="quiet" onPress={onLeave} aria-label={`Leave out ${file.name}`}>
            Remove
          </Button>
        )}
      </View>
      {send.isPending ? (
        <Progress
          share={sent < 1 ? sent : null}
          words={sent < 1 ? `Sending ${fileSize(file.size)} …` : 'Reading …'}
        />
      ) : null}
      <ProblemNotice problem={problem} />
      {take.data ? (
        <Notice kind="good" title={`Done, ${plural(take.data.source.entries, 'entry', 'entries')}.`} />
      ) : preview?.file ? (
        <>
          <PreviewCard preview={preview} viewer={viewer} />
          {preview.file.copyOf ? (
            <NewerCopy fileId={preview.file.id} copyOf={preview.file.copyOf} onDone={onSuccess} />
          ) : (
            <NewCalendarForm
              learnerId={learner.id}
              zone={learner.zone}
              preview={preview}
              otherwise={file.name.replace(/\.\w{1,5}$/, '')}
              words="Read the file"
              busy={take.isPending}
              error={take.error}
              onSave={(input) => take.mutate({ id: preview.file!.id, input })}
            />
          )}
        </>
      ) : null}
    </View>
  );
}

/** A newer copy of a file that was read before: it brings that up to date. */
function NewerCopy({
  fileId,
  copyOf,
  onDone,
}: {
  fileId: string;
  copyOf: NonNullable<NonNullable<Preview['file']>['copyOf']>;
  onDone(): Promise<unknown>;
}) {
  const now = useNow();
  const update = useMutation<ReadingResult, Error, boolean>({
    mutationFn: (confirm) =>
      call('takeFileInto', { params: { id: copyOf.sourceId }, body: { fileId, confirm } }),
    onSuccess: () => void onDone(),
  });
  const problem = update.error && problemOf(update.error);
  const held = update.data?.source.heldBack;
  if (update.data && !held) {
    const { added, changed, gone } = update.data;
    const words = [
      added ? `${added} new` : null,
      changed ? `${changed} changed` : null,
      gone ? `${gone} gone` : null,
    ]
      .filter(Boolean)
      .join(', ');
    return (
      <Notice kind="good" title={`“${copyOf.calendar}” is up to date: ${words || 'nothing has changed'}.`} />
    );
  }
  return (
    <Notice
      kind="warning"
      title={
        held
          ? `This copy has lost ${held.missing} of ${held.of} entries still to come.`
          : `You have read this file before, as “${copyOf.calendar}”, ${away(Date.parse(copyOf.readOn), now)}.`
      }
    >
      <View className="gap-2">
        <Text>
          {held
            ? 'If that is a mistake, keep what you had and get the file again.'
            : 'Reading it again brings that calendar up to date. Nothing is doubled.'}
        </Text>
        <ProblemNotice problem={problem} />
        <Button
          kind={held ? 'second' : 'primary'}
          busy={update.isPending}
          onPress={() => update.mutate(Boolean(held))}
          className="self-start"
        >
          {held ? 'They are really gone' : `Bring “${copyOf.calendar}” up to date`}
        </Button>
      </View>
    </Notice>
  );
}
