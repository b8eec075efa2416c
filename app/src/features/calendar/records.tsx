import type { ItemView } from '@zephyrfield/core/api/schemas';
import { instantOf } from '@zephyrfield/core/time/when';
import { HANDED_IN_WORDS } from '@zephyrfield/core/item/words';
import { whenWords, type Viewer } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { View } from 'react-native';
import { removePhoto } from '@/data/briefs';
import { Button, IconButton } from '@/ui/button';
import { HandedIn } from './handed-in';
import { Text } from '@/ui/text';
import { Picture } from './picture';

const RECORD_WORDS = {
  finished: 'Finished',
  reopened: 'Not finished after all',
  handedIn: 'Handed in',
  stillToDo: 'Still to do',
} as const;
// The form and what it needs come when somebody writes.
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
            {r.by ? `, ${firstName(r.by)}` : ''}
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
