import Check from 'lucide-react-native/icons/check';
import { View } from 'react-native';
import { Text } from '@/ui/text';

/** One part of the page, under its heading. */
export function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <View role="group" aria-label={title} className="gap-3">
      <Text kind="title" heading={2}>
        {title}
      </Text>
      {children}
    </View>
  );
}

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
