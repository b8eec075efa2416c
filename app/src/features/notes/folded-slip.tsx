import type { ThreadHead } from '@zephyrfield/core/api/notes';
import { away, type Viewer } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { Text } from '@/ui/text';

interface Props {
  head: ThreadHead;
  now: number;
  viewer: Viewer;
  isOpen: boolean;
  /** True where one sees several learners, so that it is worth saying about whom it is */
  isOfSeveral: boolean;
  /** Of a note to several crews: how many, and whether each of them is shown below */
  sentTo?: { crews: number; isOpen: boolean };
  onPress(): void;
}

const FOLD = 22;

/** A thread in a list, as a slip with its corner folded over: by whom, about what, its last words. */
export function FoldedSlip({ head, now, isOpen, isOfSeveral, sentTo, onPress }: Props) {
  const { last, item, learner, unread, starred } = head;
  const about = [isOfSeveral && !sentTo ? firstName(learner) : '', item?.title].filter(Boolean).join(' · ');
  return (
    <Pressable
      role={sentTo ? 'button' : 'link'}
      aria-current={isOpen ? 'true' : undefined}
      aria-expanded={sentTo?.isOpen}
      onPress={onPress}
      className={`overflow-hidden rounded-lg rounded-tr-none border-b-[3px] bg-sheet py-2 pl-4 pr-9 shadow-sm hover:bg-lagoon-wash ${isOpen ? 'border-lagoon' : 'border-line'}`}
    >
      <View className="absolute right-0 top-0" aria-hidden>
        <Svg width={FOLD} height={FOLD} viewBox="0 0 22 22">
          <Path d="M0 0H22V22Z" fill="var(--paper)" />
          <Path d="M0 0L22 22H0Z" fill={unread ? 'var(--lagoon)' : 'var(--line)'} />
        </Svg>
      </View>
      <View className="flex-row flex-wrap items-baseline gap-x-2">
        <Text kind={unread ? 'strong' : 'body'}>{last.isOwn ? 'You' : last.by}</Text>
        <Text kind="small">{about ? `about ${about}` : ''}</Text>
      </View>
      <Text numberOfLines={2} className={unread ? 'font-bold' : ''}>
        {last.words}
      </Text>
      <Text kind="small">
        {[
          away(Date.parse(last.at), now),
          unread ? `${unread} to read` : '',
          starred ? 'starred' : '',
          sentTo ? `to ${sentTo.crews} crews` : forWords(head),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Text>
    </Pressable>
  );
}

/** A note that went to several crews, once; opened, the thread of each stands below it. */
export function SentSlip({
  heads,
  openId,
  onOpen,
  ...more
}: Pick<Props, 'now' | 'viewer' | 'isOfSeveral'> & {
  heads: readonly ThreadHead[];
  openId: string | undefined;
  onOpen(id: string): void;
}) {
  const [first] = heads as [ThreadHead];
  const [isOpen, setOpen] = useState(heads.some((h) => h.id === openId));
  if (heads.length === 1)
    return (
      <FoldedSlip head={first} isOpen={first.id === openId} onPress={() => onOpen(first.id)} {...more} />
    );
  return (
    <View className="gap-2">
      <FoldedSlip
        head={first}
        isOpen={false}
        sentTo={{ crews: heads.length, isOpen }}
        onPress={() => setOpen(!isOpen)}
        {...more}
      />
      {isOpen ? (
        <View className="gap-2 pl-6">
          {heads.map((head) => (
            <FoldedSlip
              key={head.id}
              head={head}
              isOpen={head.id === openId}
              onPress={() => onOpen(head.id)}
              {...more}
            />
          ))}
        </View>
      ) : null}
    </View>
  );
}

/** Tells whom it is for, which is always said: `for everybody around Juno`, `for you and Anselm only` */
export function forWords({
  forAll,
  others,
  learner,
}: Pick<ThreadHead, 'forAll' | 'others' | 'learner'>): string {
  if (forAll) return `for everybody around ${firstName(learner)}`;
  const names = others.map((name) => firstName(name));
  return names.length ? `for you and ${names.join(', ')} only` : 'for you only';
}
