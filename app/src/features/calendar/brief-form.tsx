import type { Brief } from '@zephyrfield/core/api/own';
import type { ItemView } from '@zephyrfield/core/api/schemas';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { versionOf } from '@zephyrfield/core/lib/version';
import { useMutation } from '@tanstack/react-query';
import Trash from 'lucide-react-native/icons/trash';
import { useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import {
  BRIEF_FIELDS,
  NO_BRIEF,
  briefOrNone,
  fileSize,
  forgetBrief,
  keepBrief,
  refreshBriefs,
  removeBriefFile,
  useKeptBriefs,
  writeBrief,
} from '@/data/briefs';
import { useBriefDrafts } from '@/data/brief-draft';
import { useSendFiles } from '@/data/send-files';
import { problemOf, sendFile } from '@/data/client';
import { Button, IconButton } from '@/ui/button';
import { Choice, Field, LongField } from '@/ui/field';
import { FileDrop } from '@/ui/file-drop';
import { MarkdownTools } from '@/ui/markdown-tools';
import { Notice, ProblemNotice } from '@/ui/notice';
import { SentFiles } from './sent-files';
import { NeedsConnection } from '@/ui/needs-connection';
import { Text } from '@/ui/text';

type For = 'all' | 'one' | 'alike';

interface Props {
  item: ItemView;
  learnerId: string;
  /** Draws a part's text: what can do that is loaded with the brief that is read, and not here again */
  passages(text: string): ReactNode;
  onDone(): void;
}

/** Writing a brief: the fixed form, its files, and briefs kept to begin others with. */
export function BriefForm({ item, learnerId, passages, onDone }: Props) {
  const { shared, ofDate } = item.brief;
  const { itemId, recurrenceId, title } = item.occurrence;
  const [is, setIs] = useState<For>(ofDate ? 'one' : 'all');
  const key = keyOf(item.occurrence);
  const draft = useBriefDrafts((s) => s.of[key]);
  const keepDraft = useBriefDrafts((s) => s.write);
  // What stood there when this was begun. Where it is something else by now, somebody else has written
  // meanwhile.
  const { brief, begun } = draft ?? { brief: ofDate ?? shared ?? NO_BRIEF, begun: { shared, ofDate } };
  const write = (to: Brief, on = begun) => keepDraft(key, { brief: to, begun: on });
  const done = () => {
    keepDraft(key, null);
    onDone();
  };
  const place = is === 'one' ? 'ofDate' : 'shared';
  // The tools work on the part that was written in last.
  const area = useRef<HTMLTextAreaElement | null>(null);
  const save = useMutation({
    mutationFn: () =>
      writeBrief(
        learnerId,
        itemId,
        {
          recurrenceId: is === 'one' ? recurrenceId : '',
          brief: briefOrNone(brief),
          version: versionOf(begun[place]),
          alike: is === 'alike',
        },
        `${title}: brief ${is === 'alike' ? `for ${item.alike.count} alike ` : ''}written`,
      ),
    onSuccess: done,
    onError: () => void refreshBriefs(),
  });
  const theirs = versionOf(begun[place]) === versionOf(item.brief[place]) ? undefined : item.brief[place];
  const choices = [
    { value: 'all', words: recurrenceId ? 'all its dates' : 'this item' },
    ...(recurrenceId ? [{ value: 'one', words: 'this date alone' }] : []),
    ...(item.alike.count > 1
      ? [{ value: 'alike', words: `all ${item.alike.count} like it (“${item.alike.words}”)` }]
      : []),
  ];
  return (
    <View role="group" aria-label="The brief" className="gap-3">
      <Text kind="lead" heading={3}>
        The brief
      </Text>
      <NeedsConnection />
      {choices.length > 1 ? (
        <Choice
          label="It is for"
          value={is}
          onChange={(e) => setIs(e.currentTarget.value as For)}
          options={choices}
        />
      ) : null}
      <Kept brief={brief} onBegin={write} />
      <View className="sticky top-0 z-10 -mx-2 flex-row items-center justify-between rounded-lg border border-line bg-sheet px-2">
        <Text kind="small">All fields are optional.</Text>
        <MarkdownTools field={() => area.current} />
      </View>
      {BRIEF_FIELDS.map(([name, label, hint]) => (
        <LongField
          key={name}
          label={label}
          hint={hint || undefined}
          rows={Math.min(10, Math.max(2, brief[name].split('\n').length + 1))}
          maxLength={4000}
          value={brief[name]}
          onFocus={(e) => {
            area.current = e.currentTarget;
          }}
          onChange={(e) => write({ ...brief, [name]: e.currentTarget.value })}
        />
      ))}
      <Files item={item} ofDate={is === 'one'} />
      {theirs === undefined ? (
        <>
          <ProblemNotice problem={save.error && problemOf(save.error)} />
          <View className="flex-row flex-wrap gap-2">
            <Button busy={save.isPending} onPress={() => save.mutate()}>
              Save the brief
            </Button>
            <Button kind="quiet" onPress={done}>
              Cancel
            </Button>
          </View>
        </>
      ) : (
        <Meanwhile
          theirs={theirs ?? NO_BRIEF}
          mine={brief}
          passages={passages}
          onKeep={() => write(brief, { ...begun, [place]: item.brief[place] })}
          onTake={() => write(theirs ?? NO_BRIEF, { ...begun, [place]: item.brief[place] })}
        />
      )}
    </View>
  );
}

/** Somebody else wrote the brief while it was written here: what differs, and whose is to stand. */
function Meanwhile({
  theirs,
  mine,
  passages,
  onKeep,
  onTake,
}: Pick<Props, 'passages'> & { theirs: Brief; mine: Brief; onKeep(): void; onTake(): void }) {
  const parts = BRIEF_FIELDS.filter(([name]) => theirs[name] !== mine[name]);
  return (
    <Notice kind="warning" title="Somebody else has written this brief meanwhile.">
      <Text>What you typed is still here. Theirs, where it differs:</Text>
      {parts.map(([name, label]) => (
        <View key={name}>
          <Text kind="label">{label}</Text>
          {theirs[name].trim() ? passages(theirs[name]) : <Text className="text-ink2">nothing</Text>}
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2">
        <Button kind="second" onPress={onKeep}>
          Keep mine
        </Button>
        <Button kind="quiet" onPress={onTake}>
          Use theirs
        </Button>
      </View>
    </Notice>
  );
}

/** Briefs kept under a name: one begins this one, or this one is kept. */
function Kept({ brief, onBegin }: { brief: Brief; onBegin(brief: Brief): void }) {
  const kept = useKeptBriefs().data ?? [];
  const [chosen, setChosen] = useState('');
  const [name, setName] = useState('');
  const [keeping, setKeeping] = useState(false);
  const keep = useMutation({
    mutationFn: () => keepBrief(name.trim(), brief),
    onSuccess: () => setKeeping(false),
  });
  const one = kept.find((k) => k.id === chosen);
  return (
    <View className="gap-2">
      {kept.length ? (
        <View className="flex-row items-end gap-2">
          <View className="min-w-0 flex-1">
            <Choice
              label="Start from a template"
              value={one ? chosen : ''}
              onChange={(e) => {
                const id = e.currentTarget.value;
                setChosen(id);
                const found = kept.find((k) => k.id === id);
                if (found) onBegin(found.brief);
              }}
              options={[
                { value: '', words: 'no template' },
                ...kept.map((k) => ({ value: k.id, words: k.name })),
              ]}
            />
          </View>
          {one ? (
            <IconButton
              icon={Trash}
              label={`Delete template “${one.name}”`}
              onPress={() => void forgetBrief(one)}
            />
          ) : null}
        </View>
      ) : null}
      {keeping ? (
        <View className="gap-2 rounded-lg border border-line p-3">
          <Field
            label="Name of the template"
            value={name}
            maxLength={80}
            onChange={(e) => setName(e.currentTarget.value)}
            error={keep.error ? problemOf(keep.error).title : undefined}
          />
          <View className="flex-row gap-2">
            <Button kind="second" busy={keep.isPending} disabled={!name.trim()} onPress={() => keep.mutate()}>
              Save template
            </Button>
            <Button kind="quiet" onPress={() => setKeeping(false)}>
              Not now
            </Button>
          </View>
        </View>
      ) : briefOrNone(brief) ? (
        <Button kind="quiet" onPress={() => setKeeping(true)} className="-ml-4 self-start">
          Save as a template …
        </Button>
      ) : null}
    </View>
  );
}

/** Pictures and files: each is kept as soon as it is sent. */
function Files({ item, ofDate }: { item: ItemView; ofDate: boolean }) {
  const { itemId, recurrenceId } = item.occurrence;
  const sending = useSendFiles((file, onShare) =>
    sendFile(
      'sendBriefFile',
      { params: { id: itemId }, query: { name: file.name, recurrenceId: ofDate ? recurrenceId : '' }, file },
      onShare,
    ),
  );
  return (
    <View role="group" aria-label="Pictures and files" className="gap-2">
      <Text kind="label">Pictures and files</Text>
      {item.brief.files.map((file) => (
        <View key={file.id} className="flex-row items-center gap-2">
          <Text className="min-w-0 flex-1" numberOfLines={1}>
            {file.name}{' '}
            <Text kind="small">{`${fileSize(file.size)}${file.ofDate ? ', this date alone' : ''}`}</Text>
          </Text>
          <IconButton
            icon={Trash}
            label={`Take ${file.name} away`}
            onPress={() => void removeBriefFile(file)}
          />
        </View>
      ))}
      <FileDrop
        label="Add pictures and files"
        words="Drop them here, up to 10 MB each, or"
        onFiles={sending.begin}
      />
      <SentFiles sending={sending} />
    </View>
  );
}
