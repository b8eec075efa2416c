import type { Session } from '@zephyrfield/core/api/schemas';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { instantOf } from '@zephyrfield/core/time/when';
import { clockTime, shortDay, today } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { createElement } from 'react';
import { Pressable, View } from 'react-native';
import { call } from '@/data/client';
import { keepFor } from '@/data/forget';
import { setServerNow, useNow } from '@/data/now';
import { keys } from '@/data/queries';
import { useSeeAs } from '@/data/see-as';
import { Text } from '@/ui/text';

const DEMO_ZONE = ianaZone('Europe/Dublin') ?? UTC;
const STEPS = [
  { words: '+ 1 h', label: 'Move the demo clock one hour ahead', minutes: 60 },
  { words: '+ 1 day', label: 'Move the demo clock one day ahead', minutes: 1440 },
];

/**
 * Only in the demo: who one is, with a switch to the others, and what time it is there, with a way to move it
 * ahead.
 */
export function DemoStrip({ session }: { session: Session }) {
  const client = useQueryClient();
  const now = useNow();
  const people = useQuery({
    queryKey: ['demo', 'people'],
    queryFn: () => call('demoPeople'),
    staleTime: Infinity,
  });
  const postbox = useQuery({
    queryKey: ['demo', 'postbox'],
    queryFn: () => call('demoPostbox'),
    staleTime: Infinity,
  });
  const become = useBecome();
  const move = useMutation({
    mutationFn: (minutes: number) => call('demoClock', { body: { minutes } }),
    onSuccess: async (reply) => {
      setServerNow(reply.now);
      await client.invalidateQueries();
    },
  });
  const [weekday, ...date] = shortDay(today(now, DEMO_ZONE)).split(' ');
  const current = people.data?.find((p) => p.name === session.person?.name)?.id ?? '';
  return (
    <View
      role="region"
      aria-label="Demo"
      className="flex-row flex-wrap items-center gap-x-2 border-b border-line bg-marigold-wash px-3"
    >
      <Text kind="small" className="text-ink">
        Demo
      </Text>
      {createElement(
        'select',
        {
          'aria-label': 'Be somebody else in the demo',
          value: current,
          onChange: (e: { currentTarget: { value: string } }) => become.mutate(e.currentTarget.value),
          className:
            'min-h-[44px] w-[132px] wide:w-auto bg-transparent font-text text-small font-bold text-ink',
        },
        people.data?.map((p) =>
          createElement(
            'option',
            { key: p.id, value: p.id },
            `${firstName(p.name)}, ${p.role.split(',')[0]}`,
          ),
        ),
      )}
      <Text kind="small" numberOfLines={1} className="flex-shrink text-ink">
        <Text kind="small" className="hidden text-ink wide:inline">
          {weekday}{' '}
        </Text>
        {date.join(' ')} {clockTime(instantOf(now), DEMO_ZONE)}
      </Text>
      {postbox.data
        ? createElement(
            'a',
            {
              href: postbox.data.address,
              target: '_blank',
              rel: 'noopener noreferrer',
              className:
                'order-last ml-auto hidden font-text text-small font-bold text-lagoon underline wide:block',
            },
            'Postbox',
          )
        : null}
      {STEPS.map(({ words, label, minutes }) => (
        <Pressable
          key={minutes}
          role="button"
          aria-label={label}
          onPress={() => move.mutate(minutes)}
          className="min-h-touch justify-center px-1"
        >
          <Text kind="small" className="font-bold text-lagoon underline">
            {words}
          </Text>
        </Pressable>
      ))}
    </View>
  );
}

/** Signs in as somebody of the demo world. */
export function useBecome() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => {
      // Whoever one is from now on looks with their own eyes.
      useSeeAs.setState({ as: null });
      return call('demoBecome', { params: { person: id } });
    },
    onSuccess: (session) => {
      if (session.person) keepFor(session.person.id);
      client.removeQueries({ predicate: (q) => q.queryKey[0] === 'learner' || q.queryKey[0] === 'item' });
      client.setQueryData(keys.session, session);
      // What belongs to the person, and not to a learner.
      void client.resetQueries({
        predicate: (q) => ['notices', 'noticeSettings', 'sheet'].includes(String(q.queryKey[0])),
      });
    },
  });
}
