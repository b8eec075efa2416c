import { useEffect } from 'react';
import { useDraft } from '@/data/draft';
import { useOpenSitting } from '@/data/open-sitting';
import { DemoStrip, useBecome } from '@/features/demo/demo-strip';
import { Frame } from '@/features/frame/frame';
import { lazyComponent } from '@/ui/lazy';
import { whenIdle } from '@/ui/when-idle';

const CalendarPlace = lazyComponent(() => import('@/bundles/drag').then((m) => m.CalendarPlace), 'page');
const SignIn = lazyComponent(() => import('@/bundles/forms').then((m) => m.SignIn));
const OwnSheet = lazyComponent(() => import('@/bundles/forms').then((m) => m.OwnSheet));
const SittingSheet = lazyComponent(() => import('@/bundles/plan').then((m) => m.SittingSheet));
const FirstLearner = lazyComponent(() => import('@/bundles/forms').then((m) => m.FirstLearner));

/** What is looked at next, most likely. */
const NEXT = [() => import('@/bundles/drag'), () => import('@/features/todo/todo-place')];

export default function PlacesLayout() {
  const become = useBecome();
  // What cannot be had now is asked for again, and told, when it is wanted.
  useEffect(() => whenIdle(() => void Promise.allSettled(NEXT.map((load) => load()))), []);
  const isSitting = useOpenSitting((s) => s.id !== null);
  const isWriting = useDraft((s) => s.openFor !== null);
  return (
    <Frame
      strip={(session) => <DemoStrip session={session} />}
      signIn={<SignIn />}
      firstLearner={(name) => <FirstLearner name={name} />}
      calendar={<CalendarPlace />}
      writing={
        <>
          {isSitting ? <SittingSheet /> : null}
          {isWriting ? <OwnSheet /> : null}
        </>
      }
      enterDemo={() => become.mutate('juno')}
    />
  );
}
