import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { away } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { Link, router } from '@/router';
import { useItemThreads } from '@/data/notes';
import { useSeeAs } from '@/data/see-as';
import { Button } from '@/ui/button';
import { linkLook } from '@/ui/link-look';
import { Text } from '@/ui/text';

/** Notes about an item: the last words of each thread, and the way to write one. */
export function ItemNotes({
  occurrence: { itemId, recurrenceId },
  learnerId,
  now,
}: {
  occurrence: Pick<OccurrenceView, 'itemId' | 'recurrenceId'>;
  learnerId: string;
  now: number;
}) {
  const threads = useItemThreads(itemId).data ?? [];
  // Notes are nobody else’s to see.
  if (useSeeAs((s) => s.as !== null)) return null;
  const write = () =>
    router.push(
      `/notes?write=1&of=${encodeURIComponent(learnerId)}&item=${encodeURIComponent(itemId)}&recurrence=${encodeURIComponent(recurrenceId)}`,
    );
  return (
    <View role="group" aria-label="Notes" className="gap-1">
      {threads.length ? (
        <Text kind="lead" heading={3}>
          Notes
        </Text>
      ) : null}
      {threads.map(({ id, last, unread }) => (
        <View key={id} className="py-1">
          <Text>
            <Link href={`/notes?thread=${id}`} className={linkLook('body')}>
              {last.isOwn ? 'You' : last.by}
            </Link>
            {`: ${last.words}`}
          </Text>
          <Text kind="small">{`${away(Date.parse(last.at), now)}${unread ? ` · ${unread} to read` : ''}`}</Text>
        </View>
      ))}
      <Button kind="quiet" className="-ml-4 self-start" onPress={write}>
        Write a note about it
      </Button>
    </View>
  );
}
