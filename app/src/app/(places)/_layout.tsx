import { CalendarPlace } from '@/features/calendar/calendar-place';
import { DemoStrip, useBecome } from '@/features/demo/demo-strip';
import { Frame } from '@/features/frame/frame';
import { later } from '@/ui/later';

const SignIn = later(() => import('@/later').then((m) => m.SignIn));
const FirstLearner = later(() => import('@/later').then((m) => m.FirstLearner));

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
