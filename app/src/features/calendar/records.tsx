import type { ItemView } from '@zephyrfield/core/api/schemas';
import type { HandInWay } from '@zephyrfield/core/item/kind';
import { formatInstant, formatLocal, parseLocal } from '@zephyrfield/core/time/civil';
import { instantOf } from '@zephyrfield/core/time/when';
import { HANDED_IN_WORDS } from '@zephyrfield/core/item/words';
import { whenWords, type Viewer } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import Camera from 'lucide-react-native/icons/camera';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { View } from 'react-native';
import { refreshBriefs, removePhoto } from '@/data/briefs';
import { problemOf, sendFile } from '@/data/client';
import { changeLayer } from '@/data/layer';
import { serverNow } from '@/data/now';
import { Button, IconButton } from '@/ui/button';
import { MomentField } from '@/ui/date-field';
import { Choice, Field } from '@/ui/field';
import { FileDrop } from '@/ui/file-drop';
import { ProblemNotice } from '@/ui/notice';
import { Progress } from '@/ui/progress';
import { Text } from '@/ui/text';
import { Picture } from './picture';

const RECORD_WORDS = {
  finished: 'Finished',
  reopened: 'Not finished after all',
  handedIn: 'Handed in',
  stillToDo: 'Still to do',
} as const;
const WAYS: readonly HandInWay[] = ['online', 'paper', 'mail', 'inClass'];

interface Props {
  item: ItemView;
  learnerId: string;
  viewer: Viewer;
  thisYear: number;
  mayTick: boolean;
}

/** What was told about finishing and handing in, with who told it; and a way to tell it later. */
export function Records({ item, learnerId, viewer, thisYear, mayTick }: Props) {
  const { occurrence, records, photos } = item;
  const [isAsking, setIsAsking] = useState(false);
  if (!records.length && !photos.length && !occurrence.finished) return null;
  const mayTell = mayTick && occurrence.finished;
  return (
    <View role="group" aria-label="Record" className="gap-1">
      <Text kind="lead" heading={3}>
        Record
      </Text>
      {records.map((r, i) => (
        <Text key={`${r.at} ${i}`}>
          {RECORD_WORDS[r.kind]} {r.way ? HANDED_IN_WORDS[r.way] : ''}
          {r.note ? `, “${r.note}”` : ''}{' '}
          <Text kind="small">
            {whenWords(instantOf(Date.parse(r.at)), viewer, thisYear)}
            {r.by ? `, ${r.by.split(' ')[0]}` : ''}
          </Text>
        </Text>
      ))}
      {photos.map((photo) => (
        <View key={photo.id} className="flex-row items-start gap-2 pt-1">
          <View className="min-w-0 flex-1">
            <Picture file={photo} />
          </View>
          {mayTick ? (
            <IconButton
              icon={Trash}
              label={`Remove the photo ${photo.name}`}
              onPress={() => void removePhoto(photo)}
            />
          ) : null}
        </View>
      ))}
      {mayTell && isAsking ? (
        <HandedIn item={item} learnerId={learnerId} viewer={viewer} onDone={() => setIsAsking(false)} />
      ) : null}
      {mayTell && !isAsking ? (
        <Button kind="quiet" onPress={() => setIsAsking(true)} className="-ml-4 self-start">
          {occurrence.handedIn ? 'Change it, or add a photo' : 'Say how it was handed in'}
        </Button>
      ) : null}
    </View>
  );
}

/** How it was handed in and when, in a word more if wanted, and what it looked like. */
function HandedIn({
  item,
  learnerId,
  viewer,
  onDone,
}: Omit<Props, 'thisYear' | 'mayTick'> & { onDone(): void }) {
  const { occurrence, records } = item;
  const told = occurrence.handedIn ? records.find((r) => r.kind === 'handedIn') : undefined;
  const usual =
    occurrence.handIn === 'unknown' || occurrence.handIn === 'nothing' ? 'paper' : occurrence.handIn;
  const [way, setWay] = useState<HandInWay>(told?.way ?? usual);
  const [note, setNote] = useState(told?.note ?? '');
  // To the minute, as the field has it.
  const [moment, setMoment] = useState(() => {
    const at = told ? Date.parse(told.at) : serverNow();
    return formatLocal(at + viewer.offsetAt(at)).slice(0, 16);
  });
  const at = viewer.toInstant(parseLocal(`${moment}:00`));
  const wrong = Number.isNaN(at) ? 'Say when.' : at > serverNow() ? 'That is still to come.' : '';
  const save = () => {
    onDone();
    void changeLayer(
      learnerId,
      occurrence,
      { handedIn: { way, note, at: formatInstant(at) } },
      { words: `${occurrence.title}: handed in ${HANDED_IN_WORDS[way]}` },
    );
  };
  return (
    <View className="gap-2 pt-1">
      <Choice
        label="Handed in"
        value={way}
        onChange={(e) => setWay(e.currentTarget.value as HandInWay)}
        options={WAYS.map((value) => ({ value, words: HANDED_IN_WORDS[value] }))}
      />
      <MomentField label="When" isRequired value={moment} error={wrong || undefined} onChange={setMoment} />
      <Field label="Note" value={note} maxLength={300} onChange={(e) => setNote(e.currentTarget.value)} />
      <Photos item={item} />
      <View className="flex-row flex-wrap gap-2">
        <Button kind="second" disabled={wrong !== ''} onPress={save}>
          Save
        </Button>
        <Button kind="quiet" onPress={onDone}>
          Cancel
        </Button>
      </View>
    </View>
  );
}

/** Photos of what was handed in: each is kept as soon as it is sent. */
function Photos({ item }: { item: ItemView }) {
  const { itemId, recurrenceId } = item.occurrence;
  const [share, setShare] = useState<number | null>(null);
  const send = useMutation({
    mutationFn: async (files: File[]) => {
      for (const file of files)
        await sendFile(
          'sendRecordPhoto',
          { params: { id: itemId }, query: { name: file.name, recurrenceId }, file },
          setShare,
        );
    },
    onSettled: () => {
      setShare(null);
      return refreshBriefs();
    },
  });
  return (
    <View className="gap-2">
      <FileDrop
        label="Photos of what was handed in"
        words="A photo of it, up to 10 MB:"
        button="Take or choose a photo"
        icon={Camera}
        pictures
        onFiles={(files) => send.mutate(files)}
      />
      {send.isPending ? <Progress share={share} words="Sending …" /> : null}
      <ProblemNotice problem={send.error && problemOf(send.error)} />
    </View>
  );
}
