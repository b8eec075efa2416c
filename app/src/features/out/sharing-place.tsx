import { ScrollView } from 'react-native';
import { PlaceHead } from '@/ui/place-head';
import { GoingOut } from './going-out';

/** All that goes out of a schedule: live links, one-time files, paper, an archive. */
export const SharingPlace = () => (
  <ScrollView
    className="flex-1"
    contentContainerClassName="mx-auto w-full max-w-[760px] gap-3 px-4 pb-12 pt-3"
    keyboardShouldPersistTaps="handled"
  >
    <PlaceHead title="Crew" />
    <GoingOut />
  </ScrollView>
);
