import { ScrollView } from 'react-native';
import { Link } from '@/router';
import { linkLook } from '@/ui/link-look';
import { Text } from '@/ui/text';
import { LearnerForm } from './learner-form';

/** The second step after a new account: whose schedule it is. */
export function FirstLearner({ name }: { name: string }) {
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-12"
    >
      <Text kind="display" heading={1}>
        Whose schedule?
      </Text>
      <Text className="text-ink2">
        Your own, or that of the learner you look after. You can add more later.
      </Text>
      <LearnerForm name={name} words="Start" />
      <Text className="text-ink2">Has somebody invited you to a schedule that is there already?</Text>
      <Link href="/join" className={linkLook('body')}>
        I have a code
      </Link>
    </ScrollView>
  );
}
