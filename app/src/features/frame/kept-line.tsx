import { useQueryClient } from '@tanstack/react-query';
import CloudOff from 'lucide-react-native/icons/cloud-off';
import { useEffect, useSyncExternalStore } from 'react';
import { View } from 'react-native';
import { keepPage, keepSchedule } from '@/data/keep-page';
import { useLearner } from '@/data/learner';
import { followOutbox, useOutbox } from '@/data/outbox';
import { refreshLearner } from '@/data/queries';
import { Text } from '@/ui/text';
import { whenIdle } from '@/ui/when-idle';

const listen = (changed: () => void) => {
  for (const name of ['online', 'offline']) globalThis.addEventListener?.(name, changed);
  return () => {
    for (const name of ['online', 'offline']) globalThis.removeEventListener?.(name, changed);
  };
};
const isOnline = () => typeof navigator === 'undefined' || navigator.onLine !== false;

/** Says what is not saved yet, and that there is no connection; sends what waits as soon as there is one. */
export function KeptLine() {
  const client = useQueryClient();
  const waiting = useOutbox((s) => s.waiting);
  const online = useSyncExternalStore(listen, isOnline, () => true);
  const learnerId = useLearner()?.learner.id;
  useEffect(() => whenIdle(keepPage), []);
  useEffect(() => {
    if (learnerId) return whenIdle(() => void keepSchedule(learnerId));
    return undefined;
  }, [learnerId]);
  useEffect(() => followOutbox((learnerId) => void refreshLearner(client, learnerId)), [client]);
  if (online && !waiting.length) return null;
  const last = waiting.at(-1);
  const kept =
    waiting.length === 1
      ? `Not saved yet: ${last!.words}.`
      : waiting.length
        ? `Not saved yet: ${waiting.length} changes, the last one ${last!.words}.`
        : '';
  return (
    <View
      role="status"
      aria-label="Not saved yet"
      className="flex-row items-center gap-2 border-t border-line bg-lagoon-wash px-4 py-2"
    >
      <CloudOff size={18} color="var(--ink)" aria-hidden />
      <Text className="min-w-0 flex-1">
        {[
          online ? '' : 'No connection: this is what was last seen.',
          kept,
          waiting.length ? 'Kept on this device, and sent as soon as there is a connection.' : '',
        ]
          .filter(Boolean)
          .join(' ')}
      </Text>
    </View>
  );
}
