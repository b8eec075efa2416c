import Check from 'lucide-react-native/icons/check';
import { Pressable, View } from 'react-native';

/** A box that is ticked or not, as it is drawn; what it is for stands around it. */
export function Box({ on }: { on: boolean }) {
  return (
    <View
      className={`h-6 w-6 items-center justify-center rounded border-2 ${on ? 'border-lagoon bg-lagoon' : 'border-ink2'}`}
    >
      {on ? <Check size={16} strokeWidth={3} color="var(--lagoon-on)" aria-hidden /> : null}
    </View>
  );
}

/** The same to be ticked by itself; what it is for is only said, since it stands beside it. */
export function BoxAlone({ label, on, onPress }: { label: string; on: boolean; onPress(): void }) {
  return (
    <Pressable
      role="checkbox"
      aria-checked={on}
      aria-label={label}
      onPress={onPress}
      className="min-h-touch min-w-touch items-center justify-center rounded-lg hover:bg-lagoon-wash"
    >
      <Box on={on} />
    </Pressable>
  );
}
