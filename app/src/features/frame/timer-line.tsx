import { suffices } from '@zephyrfield/core/item/access';
import { itemPath } from '@zephyrfield/core/notify/links';
import type { TimerView } from '@zephyrfield/core/api/schemas';
import Timer from 'lucide-react-native/icons/timer';
import { Pressable, View } from 'react-native';
import { call } from '@/data/client';
import { changeLayer } from '@/data/layer';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useTimer } from '@/data/queries';
import { useUndo } from '@/data/undo';
import { Link } from '@/router';
import { Text } from '@/ui/text';

/** The clock that runs, wherever one is, with what it runs for. */
export function TimerLine() {
  const seen = useLearner();
  return seen ? (
    <Running learnerId={seen.learner.id} mayTick={suffices(seen.learner.access, 'tick')} />
  ) : null;
}

function Running({ learnerId, mayTick }: { learnerId: string; mayTick: boolean }) {
  const now = useNow();
  const timer = useTimer(learnerId).data;
  if (!timer) return null;
  const { itemId, recurrenceId, title, since, spent } = timer;
  const minutes = spent + Math.max(0, Math.round((now - Date.parse(since)) / 60_000));
  return (
    <View
      role="group"
      aria-label="The timer"
      className="flex-row items-center gap-2 border-b border-line bg-lagoon-wash px-4"
    >
      <Timer size={18} color="var(--lagoon)" aria-hidden />
      <Link
        href={itemPath(itemId, recurrenceId)}
        className="min-h-touch min-w-0 flex-1 content-center font-text text-body text-ink underline"
      >
        <Text numberOfLines={1}>{title}</Text>
      </Link>
      <Text kind="small">{minutes} min</Text>
      {mayTick ? (
        <Pressable
          role="button"
          aria-label={`Stop the timer of ${title}`}
          className="min-h-touch justify-center px-2"
          onPress={() => void stop(learnerId, timer)}
        >
          <Text kind="label" className="text-lagoon underline">
            Stop
          </Text>
        </Pressable>
      ) : null}
    </View>
  );
}

async function stop(learnerId: string, { itemId, recurrenceId, title, spent }: TimerView): Promise<void> {
  try {
    const { occurrence } = await call('item', { params: { id: itemId }, query: { recurrenceId } });
    await changeLayer(
      learnerId,
      occurrence,
      { timer: false },
      { words: `${title}: timer stopped`, back: { spent, timer: true } },
    );
  } catch (error) {
    useUndo.getState().failed(error);
  }
}
