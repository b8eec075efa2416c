import { CalendarPlace } from '@/features/calendar/calendar-place';
import { DemoStrip, useBecome } from '@/features/demo/demo-strip';
import { Frame } from '@/features/frame/frame';
import { FirstLearner } from '@/features/people/first-learner';
import { SignIn } from '@/features/people/sign-in';

export default function PlacesLayout() {
  const become = useBecome();
  return (
    <Frame
      strip={(session) => <DemoStrip session={session} />}
      signIn={<SignIn />}
      firstLearner={(name) => <FirstLearner name={name} />}
      calendar={<CalendarPlace />}
      enterDemo={() => become.mutate('juno')}
    />
  );
}
