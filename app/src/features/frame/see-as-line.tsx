import { View } from 'react-native';
import { seeAs } from '@/data/crew';
import { useSeeAs } from '@/data/see-as';
import { Button } from '@/ui/button';
import { Text } from '@/ui/text';
import { useEscape } from '@/ui/use-escape';

/** Says with whose eyes the page looks, as long as it does not look with one’s own; a press or Escape ends it. */
export function SeeAsLine() {
  const as = useSeeAs((s) => s.as);
  return as ? <Line name={as.name} may={as.may} /> : null;
}

function Line({ name, may }: { name: string; may: string }) {
  const leave = () => void seeAs(null);
  useEscape(leave);
  return (
    <View
      role="region"
      aria-label="Seen as somebody else"
      className="flex-row flex-wrap items-center gap-x-3 border-b-2 border-t-2 border-dashed border-lagoon bg-lagoon-wash px-4"
    >
      <Text className="min-w-[260px] flex-1 py-2">
        As <Text kind="strong">{name}</Text>
        {` sees it. They may ${may}; you can only look.`}
      </Text>
      <Button kind="second" className="my-1" onPress={leave}>
        Back to your own view
      </Button>
    </View>
  );
}
