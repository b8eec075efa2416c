import type { SessionView } from '@zephyrfield/core/api/account-view';
import { useMutation } from '@tanstack/react-query';
import { View } from 'react-native';
import { endOtherSessions, endSession } from '@/data/account';
import { problemOf } from '@/data/client';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { dayHere } from './day-here';

/** Where one is signed in: since when, last used when and from where; each can be ended. */
export function Devices({ sessions }: { sessions: readonly SessionView[] }) {
  const end = useMutation({ mutationFn: endSession });
  const endAll = useMutation({ mutationFn: endOtherSessions });
  const error = end.error ?? endAll.error;
  return (
    <Part title="Where you are signed in" aside="">
      <ProblemNotice problem={error && problemOf(error)} />
      {sessions.map((s) => (
        <View
          key={s.id}
          role="group"
          aria-label={s.device}
          className="flex-row flex-wrap items-center gap-x-3 border-b border-dashed border-line py-1"
        >
          <View className="min-w-[200px] flex-1">
            <Text kind="strong">
              {s.device}
              {s.here ? ' (this one)' : ''}
            </Text>
            <Text kind="small">
              {[`since ${dayHere(s.since)}`, `last used ${dayHere(s.lastUsed)}`, s.from && `from ${s.from}`]
                .filter(Boolean)
                .join(' · ')}
            </Text>
          </View>
          {s.here ? null : (
            <Button
              kind="quiet"
              className="px-2"
              busy={end.isPending && end.variables === s.id}
              aria-label={`Sign out on ${s.device}`}
              onPress={() => end.mutate(s.id)}
            >
              Sign out there
            </Button>
          )}
        </View>
      ))}
      {sessions.length > 1 ? (
        <Button kind="second" className="self-start" busy={endAll.isPending} onPress={() => endAll.mutate()}>
          Sign out everywhere else
        </Button>
      ) : null}
    </Part>
  );
}
