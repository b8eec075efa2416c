import { useEffect } from 'react';
import { useDraft } from '@/data/draft';
import { DemoStrip, useBecome } from '@/features/demo/demo-strip';
import { Frame } from '@/features/frame/frame';
import { later } from '@/ui/later';
import { whenIdle } from '@/ui/when-idle';

const CalendarPlace = later(() => import('@/carrying').then((m) => m.CalendarPlace), 'page');
const SignIn = later(() => import('@/later').then((m) => m.SignIn));
const OwnSheet = later(() => import('@/later').then((m) => m.OwnSheet));
const FirstLearner = later(() => import('@/later').then((m) => m.FirstLearner));

/** What is looked at next, most likely. */
const NEXT = [() => import('@/carrying'), () => import('@/features/todo/todo-place')];

export default function PlacesLayout() {
  const become = useBecome();
  // What cannot be had now is asked for again, and told, when it is wanted.
  useEffect(() => whenIdle(() => void Promise.allSettled(NEXT.map((load) => load()))), []);
  const isWriting = useDraft((s) => s.open);
  return (
    <Frame
      strip={(session) => <DemoStrip session={session} />}
      signIn={<SignIn />}
      firstLearner={(name) => <FirstLearner name={name} />}
      calendar={<CalendarPlace />}
      writing={isWriting ? <OwnSheet /> : null}
      enterDemo={() => become.mutate('juno')}
    />
  );
}
