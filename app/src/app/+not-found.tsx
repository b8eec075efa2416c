import { Link } from '@/router';
import { View } from 'react-native';
import { Text } from '@/ui/text';

export default function NotFound() {
  return (
    <View role="main" className="flex-1 items-center justify-center gap-3 bg-paper p-6">
      <Text kind="title" heading={1}>
        There is no such page
      </Text>
      <Link href="/calendar" className="font-text text-body text-lagoon underline">
        Go to the calendar
      </Link>
    </View>
  );
}
