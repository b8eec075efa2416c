import { late } from '@/data/late';
import { useQueryClient } from '@tanstack/react-query';
import CloudOff from 'lucide-react-native/icons/cloud-off';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { keepPage, keepSchedule } from '@/data/keep-page';
import { useLearner } from '@/data/learner';

import { useOutbox } from '@/data/outbox';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { lazyComponent } from '@/ui/lazy';
import { useOnline } from '@/ui/online';
import { Text } from '@/ui/text';
import { whenIdle } from '@/ui/when-idle';
import type * as keptListModule from './kept-list';
import type * as outboxSendModule from '@/data/outbox-send';

declare module '@/data/late' {
  interface LateParts {
    KeptList: typeof keptListModule.KeptList;
    outbox: Pick<typeof outboxSendModule, 'followOutbox'>;
  }
}

const KeptList = lazyComponent(late('KeptList'));

/** Says what is not saved yet, and that there is no connection; sends what waits as soon as there is one. */
export function KeptLine() {
  const client = useQueryClient();
  const waiting = useOutbox((s) => s.waiting);
  const online = useOnline();
  const learnerId = useLearner()?.learner.id;
  useEffect(() => whenIdle(keepPage), []);
  useEffect(() => {
    if (learnerId) return whenIdle(() => void keepSchedule(learnerId));
    return undefined;
  }, [learnerId]);
  const isWaiting = waiting.length > 0;
  // What sends is not there before something waits.
  useEffect(() => {
    if (!isWaiting) return undefined;
    let stop = () => {};
    let isOver = false;
    void late('outbox')().then(({ followOutbox }) => {
      if (!isOver) stop = followOutbox((learnerId) => void refreshLearner(client, learnerId));
    });
    return () => {
      isOver = true;
      stop();
    };
  }, [client, isWaiting]);
  const [opened, setOpened] = useState(false);
  if (online && !waiting.length && !opened) return null;
  const refused = waiting.filter((k) => k.refused).length;
  const last = waiting.at(-1);
  const kept =
    waiting.length === 1
      ? `Not saved yet: ${last!.words}.`
      : waiting.length
        ? `Not saved yet: ${waiting.length} changes, the last one ${last!.words}.`
        : '';
  const how = refused
    ? refused === 1
      ? 'One of them could not be saved.'
      : `${refused} of them could not be saved.`
    : 'Kept on this device, and sent as soon as there is a connection.';
  return (
    <>
      <View
        role="status"
        aria-label="Not saved yet"
        className={`flex-row items-center gap-2 border-t border-line px-4 py-1 ${refused ? 'bg-marigold-wash' : 'bg-lagoon-wash'}`}
      >
        <CloudOff size={18} color="var(--ink)" aria-hidden />
        <Text className="min-w-0 flex-1 py-1">
          {[
            online ? '' : 'No connection: this is what was last seen. What you tick, note or change is kept.',
            kept,
            waiting.length ? how : '',
          ]
            .filter(Boolean)
            .join(' ')}
        </Text>
        {waiting.length ? (
          <Button kind="quiet" className="px-2" onPress={() => setOpened(true)}>
            Look at it
          </Button>
        ) : null}
      </View>
      {opened ? <KeptList onClose={() => setOpened(false)} /> : null}
    </>
  );
}
