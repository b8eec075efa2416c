import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { countHidden, hiddenWords } from '@zephyrfield/core/view/hidden';
import { View } from 'react-native';
import { Link } from '@/router';
import { Text } from '@/ui/text';

interface Props {
  /** What would stand here if it were not hidden */
  held: readonly OccurrenceView[];
  nameOf(calendarId: string): string;
}

/** Says how much is hidden of what would stand here, and leads to it: what is out of sight may be due. */
export function HiddenHere({ held, nameOf }: Props) {
  const words = hiddenWords(countHidden(held), nameOf);
  return (
    <View role="status">
      {words ? (
        <Text kind="small" className="py-1 font-bold text-marigold">
          {words}{' '}
          <Link href="/hidden" className="px-2 py-2 font-text text-small font-bold text-lagoon underline">
            show
          </Link>
        </Text>
      ) : null}
    </View>
  );
}
