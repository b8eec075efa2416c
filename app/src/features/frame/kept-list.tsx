import { useQueryClient } from '@tanstack/react-query';
import { View } from 'react-native';
import { useOutbox } from '@/data/outbox';
import { letGo, tryAgain } from '@/data/outbox-settle';
import type { Kept } from '@/data/outbox-kept';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';

/** Lists each change that waits, what the server said to it, and the ways on. */
export function KeptList({ onClose }: { onClose(): void }) {
  const waiting = useOutbox((s) => s.waiting);
  return (
    <Sheet label="Not saved yet" onClose={onClose}>
      <View className="gap-4">
        <Text kind="title" heading={2} className="pr-10">
          Not saved yet
        </Text>
        <Text>
          {!waiting.length
            ? 'Everything is saved.'
            : waiting.every((k) => k.refused)
              ? 'The server did not take this. It stays on this device until you try again or let it go.'
              : 'This is kept on this device, and saved in this order as soon as there is a connection.'}
        </Text>
        <View role="list" aria-label="Changes that wait" className="gap-3">
          {waiting.map((kept) => (
            <Change key={kept.key} kept={kept} />
          ))}
        </View>
      </View>
    </Sheet>
  );
}

function Change({ kept: { key, learnerId, words, refused } }: { kept: Kept }) {
  const client = useQueryClient();
  const isClash = refused?.theirs !== undefined;
  const drop = () => {
    letGo(key);
    // What is shown is what the server says again.
    void refreshLearner(client, learnerId);
    void client.invalidateQueries({ queryKey: ['item'] });
  };
  return (
    <View role="listitem" className="gap-1 border-t border-line pt-2">
      <Text kind="strong" dir="auto">
        {words}
      </Text>
      {refused ? (
        <Notice kind={isClash ? 'warning' : 'trouble'} title={refused.title}>
          {isClash ? <Text dir="auto">{refused.theirs || 'An empty note'}</Text> : refused.remedy}
        </Notice>
      ) : null}
      <View className="-ml-2 flex-row flex-wrap">
        {refused ? (
          <Button
            kind="quiet"
            className="px-2"
            aria-label={`${isClash ? 'Save mine' : 'Try again'}: ${words}`}
            onPress={() => tryAgain(key)}
          >
            {isClash ? 'Save mine' : 'Try again'}
          </Button>
        ) : null}
        <Button
          kind="quiet"
          className="px-2"
          aria-label={`${isClash ? 'Keep that one' : 'Let go'}: ${words}`}
          onPress={drop}
        >
          {isClash ? 'Keep that one' : 'Let go'}
        </Button>
      </View>
    </View>
  );
}
