import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { RELEASE } from '@zephyrfield/core/lib/release';
import type { Address } from '@/places';
import { Link } from '@/router';
import { useSession } from '@/data/queries';
import { Cleat } from '@/ui/cleat';
import { linkLook } from '@/ui/link-look';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';

const WAYS: readonly (readonly [href: Address, words: string, says: string])[] = [
  ['/gather', 'Gather', 'Calendars and links: follow a link, read files or an outline, change a calendar'],
  ['/notice-settings', 'Reminders and mail', 'When you are reminded, by which way, and when it stays quiet'],
  ['/settings', 'Settings', 'Hours, first day, time zone, light or dark, the term'],
  ['/plan?times=1', 'When there is time', 'The hours in which work can be planned'],
  ['/account', 'Your account', 'Name, password, devices, taking everything along, deleting it'],
  ['/help', 'Help and keys', 'Where a course site gives its link, what the shapes mean, all keys'],
];

/**
 * Oneself: the ways to all that is one's own.
 * @param account whose schedules one sees, and the way out
 */
export function YouPlace({ account }: { account: ReactNode }) {
  const person = useSession().data!.person!;
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-4 px-4 pb-12 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title="You" />
      <View className="flex-row items-center gap-3 rounded-xl bg-sheet px-4 py-3">
        <Cleat name={person.name} />
        <View className="min-w-0 flex-1">
          <Text kind="strong">{person.name}</Text>
          <Text kind="small">{person.email}</Text>
        </View>
      </View>
      <View>
        {WAYS.map(([href, words, says]) => (
          <View key={href} className="border-b border-line py-1.5">
            <Link href={href} className={`${linkLook('body')} self-start`}>
              {words}
            </Link>
            <Text kind="small">{says}</Text>
          </View>
        ))}
      </View>
      {account}
      <Text kind="small">{`Zephyrfield ${RELEASE}`}</Text>
    </ScrollView>
  );
}
