import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { Text } from '@/ui/text';
import type { Row, Sheet, Step } from './rows';

interface Props {
  sheet: Sheet;
  /** Number of rows that are kept apart: those that only name a topic, and those that are there already */
  topics: number;
  known: number;
  shows: { topics: boolean; known: boolean };
  onShows(to: { topics: boolean; known: boolean }): void;
  onStep(step: Step): void;
  /** A row of what is marked on the page; null where nothing is */
  marked(): Row | null;
}

/** What is done with rows, below them. */
export function RowTools({ sheet, topics, known, shows, onShows, onStep, marked }: Props) {
  const [hint, setHint] = useState('');
  const mark = () => {
    const row = marked();
    setHint(row ? '' : 'Mark some words in the outline first.');
    if (row) onStep({ do: 'add', row });
  };
  const { chosen, past } = sheet;
  return (
    <View className="gap-1">
      <View className="-ml-2 flex-row flex-wrap items-center">
        {topics ? (
          <Button kind="quiet" className="px-2" onPress={() => onShows({ ...shows, topics: !shows.topics })}>
            {shows.topics
              ? 'Hide what only names a topic'
              : `Show ${plural(topics, 'row')} that only ${topics === 1 ? 'names' : 'name'} a topic`}
          </Button>
        ) : null}
        {known ? (
          <Button kind="quiet" className="px-2" onPress={() => onShows({ ...shows, known: !shows.known })}>
            {shows.known
              ? 'Hide what is there already'
              : `Show ${plural(known, 'row')} that ${known === 1 ? 'is' : 'are'} there already`}
          </Button>
        ) : null}
        <Button kind="quiet" className="px-2" onPress={mark}>
          Add what is marked
        </Button>
        {chosen.length > 1 ? (
          <Button kind="quiet" className="px-2" onPress={() => onStep({ do: 'join', ids: chosen })}>
            {`Join ${chosen.length} rows`}
          </Button>
        ) : null}
        {past.length ? (
          <Button kind="quiet" className="px-2" onPress={() => onStep({ do: 'undo' })}>
            Take back the last change
          </Button>
        ) : null}
      </View>
      {hint ? <Text role="status">{hint}</Text> : null}
    </View>
  );
}
