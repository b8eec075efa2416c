import { Link } from '@/router';
import { useOutlines } from '@/data/outlines';
import { linkLook } from '@/ui/link-look';
import { Text } from '@/ui/text';

/** Where an item stands in the course outline that it was added from; nothing for any other item. */
export function ItemOutline({ learnerId, itemId }: { learnerId: string; itemId: string }) {
  const outline = useOutlines(learnerId).data?.find((o) => o.items.some((i) => i.itemId === itemId));
  if (!outline) return null;
  return (
    <Text>
      <Link href={`/outline?id=${outline.id}&item=${itemId}`} className={linkLook('body')}>
        {`In the outline: ${outline.name}`}
      </Link>
    </Text>
  );
}
