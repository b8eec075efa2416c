import type { InvitationView } from '@zephyrfield/core/api/crew';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { ACCESS_NAMES } from '@zephyrfield/core/item/crew';
import { plural } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import type { Viewer } from '@zephyrfield/core/words/when';
import { problemOf } from '@/data/client';
import { takeBackInvitation } from '@/data/crew';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { dayOf } from './day-of';

const STATES = {
  open: 'open',
  used: 'used',
  runOut: 'run out',
  takenBack: 'taken back',
} as const;
const WAYS = { mail: 'By mail', link: 'By a link', code: 'By a code' } as const;

interface Props {
  learner: Learner;
  invitations: readonly InvitationView[];
  viewer: Viewer;
}

/** Invitations that are still good, and on request those that are not any more. */
export function Invitations({ learner, invitations, viewer }: Props) {
  const [all, setAll] = useState(false);
  const takeBack = useMutation({ mutationFn: (id: string) => takeBackInvitation(learner.id, id) });
  const open = invitations.filter((i) => i.state === 'open');
  const over = invitations.length - open.length;
  return (
    <View className="gap-1">
      <ProblemNotice problem={takeBack.error && problemOf(takeBack.error)} />
      {(all ? invitations : open).map((i) => (
        <View
          key={i.id}
          role="group"
          aria-label={`Invitation ${WAYS[i.way].toLowerCase()}`}
          className="flex-row flex-wrap items-center gap-x-3 border-b border-dashed border-line py-1"
        >
          <View className="min-w-[200px] flex-1">
            <Text>
              <Text kind="strong">{i.email ?? WAYS[i.way]}</Text>
              {`: ${i.asLearner ? 'the learner' : ACCESS_NAMES[i.access]}`}
            </Text>
            <Text kind="small">
              {[
                STATES[i.state],
                i.state === 'open' ? `until ${dayOf(i.expires, viewer)}` : `made ${dayOf(i.created, viewer)}`,
                i.used ? `let ${plural(i.used, 'person', 'people')} in` : '',
                i.state === 'open' && i.usesLeft > 1 ? `${i.usesLeft} more may come` : '',
                `by ${i.by}`,
              ]
                .filter(Boolean)
                .join(' · ')}
            </Text>
          </View>
          {i.state === 'open' ? (
            <Button
              kind="quiet"
              className="px-2"
              busy={takeBack.isPending && takeBack.variables === i.id}
              onPress={() => takeBack.mutate(i.id)}
            >
              Take it back
            </Button>
          ) : null}
        </View>
      ))}
      {over ? (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setAll(!all)}>
          {all ? 'Only those that are open' : `Show ${plural(over, 'past invitation')}`}
        </Button>
      ) : null}
    </View>
  );
}
