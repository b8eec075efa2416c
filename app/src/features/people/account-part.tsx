import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { View } from 'react-native';
import { signOut } from '@/data/auth';
import { useLearner } from '@/data/learner';
import { useOutbox } from '@/data/outbox';
import { letAllGo } from '@/data/outbox-settle';
import { refresh, useSession } from '@/data/queries';
import { useUndo } from '@/data/undo';
import { Link } from '@/router';
import { Button } from '@/ui/button';
import { linkLook } from '@/ui/link-look';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { LearnerForm } from './learner-form';

/** Whose schedules one sees, another one beside them, and the way out. */
export function AccountPart() {
  const learners = useLearner()?.learners ?? [];
  const session = useSession().data;
  const [adds, setAdds] = useState(false);
  const waiting = useOutbox((s) => s.waiting);
  const [leaves, setLeaves] = useState(false);
  if (!session?.person) return null;
  return (
    <>
      <View role="group" aria-label="Learners" className="gap-3 border-t border-line pt-4">
        <Text kind="title" heading={2}>
          Learners
        </Text>
        <Text>{learners.map((l) => l.name).join(', ')}</Text>
        {adds ? (
          <View className="gap-3">
            <LearnerForm name="" words="Add this learner" onDone={() => setAdds(false)} />
            <Button kind="quiet" onPress={() => setAdds(false)} className="-ml-4 self-start">
              Cancel
            </Button>
          </View>
        ) : (
          <Button kind="second" onPress={() => setAdds(true)} className="self-start">
            Add a learner
          </Button>
        )}
      </View>
      {session.demo ? null : (
        <View role="group" aria-label="Your account" className="gap-3 border-t border-line pt-4">
          <Text kind="title" heading={2}>
            Your account
          </Text>
          <Text>{session.person.email}</Text>
          <Link href="/account" className={linkLook('body')}>
            Name, password, devices, deleting it
          </Link>
          {leaves ? (
            <View className="gap-2">
              <Text>Sign out on this device? What you have saved stays with your account.</Text>
              {waiting.length ? (
                <Notice kind="warning" title={`${plural(waiting.length, 'change')} not saved yet`}>
                  <Text>{waiting.map((k) => k.words).join(', ')}</Text>
                  <Text>
                    What is not saved stays on this device, hidden from others, and is saved when you sign in
                    here again.
                  </Text>
                  <Button
                    kind="quiet"
                    className="-ml-2 self-start px-2"
                    onPress={() => {
                      letAllGo();
                      // What is shown is what the server says again.
                      void refresh(['learner']);
                    }}
                  >
                    Let it go instead
                  </Button>
                </Notice>
              ) : null}
              <View className="flex-row flex-wrap gap-2">
                <Button
                  onPress={() => void signOut().catch((error: unknown) => useUndo.getState().failed(error))}
                >
                  Yes, sign out
                </Button>
                <Button kind="second" onPress={() => setLeaves(false)}>
                  Stay
                </Button>
              </View>
            </View>
          ) : (
            <Button kind="second" onPress={() => setLeaves(true)} className="self-start">
              Sign out
            </Button>
          )}
        </View>
      )}
    </>
  );
}
