import type { ItemView } from '@zephyrfield/core/api/schemas';
import type { HandInWay } from '@zephyrfield/core/item/kind';
import { instantOf } from '@zephyrfield/core/time/when';
import { HANDED_IN_WORDS } from '@zephyrfield/core/item/words';
import { whenWords, type Viewer } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { changeLayer } from '@/data/layer';
import { Button } from '@/ui/button';
import { Choice, Field } from '@/ui/field';
import { Text } from '@/ui/text';

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
  const { occurrence, records } = item;
  const [isAsking, setIsAsking] = useState(false);
  const [way, setWay] = useState<HandInWay>(
    occurrence.handIn === 'unknown' || occurrence.handIn === 'nothing' ? 'paper' : occurrence.handIn,
  );
  const [note, setNote] = useState('');
  if (!records.length && !occurrence.finished) return null;
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
      {!mayTick || !occurrence.finished ? null : isAsking ? (
        <View className="gap-2 pt-1">
          <Choice
            label="Handed in"
            value={way}
            onChange={(e) => setWay(e.currentTarget.value as HandInWay)}
            options={WAYS.map((value) => ({ value, words: HANDED_IN_WORDS[value] }))}
          />
          <Field label="Note" value={note} maxLength={300} onChange={(e) => setNote(e.currentTarget.value)} />
          <Button
            kind="second"
            className="self-start"
            onPress={() => {
              setIsAsking(false);
              void changeLayer(
                learnerId,
                occurrence,
                { handedIn: { way, note } },
                { words: `${occurrence.title}: handed in ${HANDED_IN_WORDS[way]}` },
              );
            }}
          >
            Save
          </Button>
        </View>
      ) : (
        <Button kind="quiet" onPress={() => setIsAsking(true)} className="-ml-4 self-start">
          {occurrence.handedIn ? 'Change it' : 'Say how it was handed in'}
        </Button>
      )}
    </View>
  );
}
