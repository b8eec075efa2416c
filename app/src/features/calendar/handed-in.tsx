import type { ItemView } from '@zephyrfield/core/api/schemas';
import type { HandInWay } from '@zephyrfield/core/item/kind';
import { formatInstant, formatLocal, parseLocal } from '@zephyrfield/core/time/civil';
import { HANDED_IN_WORDS } from '@zephyrfield/core/item/words';
import type { Viewer } from '@zephyrfield/core/words/when';
import Camera from 'lucide-react-native/icons/camera';
import { useState } from 'react';
import { View } from 'react-native';
import { sendFile } from '@/data/client';
import { changeLayer } from '@/data/layer';
import { useSendFiles } from '@/data/send-files';
import { serverNow } from '@/data/now';
import { Button } from '@/ui/button';
import { MomentField } from '@/ui/date-field';
import { Choice, Field } from '@/ui/field';
import { FileDrop } from '@/ui/file-drop';
import { SentFiles } from './sent-files';

const WAYS: readonly HandInWay[] = ['online', 'paper', 'mail', 'inClass'];

interface Props {
  item: ItemView;
  learnerId: string;
  viewer: Viewer;
  onDone(): void;
}

/** How it was handed in and when, in a word more if wanted, and what it looked like. */
export function HandedIn({ item, learnerId, viewer, onDone }: Props) {
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
  const sending = useSendFiles((file, onShare) =>
    sendFile(
      'sendRecordPhoto',
      { params: { id: itemId }, query: { name: file.name, recurrenceId }, file },
      onShare,
    ),
  );
  return (
    <View className="gap-2">
      <FileDrop
        label="Photos of what was handed in"
        words="A photo of it, up to 10 MB:"
        button="Take or choose a photo"
        icon={Camera}
        pictures
        onFiles={sending.begin}
      />
      <SentFiles sending={sending} />
    </View>
  );
}
