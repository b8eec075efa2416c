import type { HandInWay } from '@zephyrfield/core/item/kind';
import X from 'lucide-react-native/icons/x';
import { useEffect } from 'react';
import { Pressable, View } from 'react-native';
import { useDeeds } from '@/data/deeds';
import { useLearner } from '@/data/learner';
import { changeMarks } from '@/data/marks';
import { IconButton } from '@/ui/button';
import { Text } from '@/ui/text';

/** How long it stays, in milliseconds, where nothing is asked. The key for undoing works on afterwards. */
const STAYS = 15_000;

const CHANNELS: readonly (readonly [HandInWay, string])[] = [
  ['online', 'online'],
  ['paper', 'on paper'],
  ['mail', 'by mail'],
  ['inClass', 'in class'],
];

/** What was just done, with the way back; and, where it matters, one question that may be left unanswered. */
export function DeedBar() {
  const { told, undo, dismiss } = useDeeds();
  const learnerId = useLearner()?.learner.id;
  const asks = told && 'deed' in told ? told.deed.asks : undefined;
  useEffect(() => {
    if (!told || 'problem' in told || asks) return;
    const timer = setTimeout(dismiss, STAYS);
    return () => clearTimeout(timer);
  }, [told, asks, dismiss]);
  if (!told || !learnerId) return null;
  const words = 'problem' in told ? told.problem.title : 'deed' in told ? told.deed.words : told.words;
  return (
    <View role={'problem' in told ? 'alert' : 'status'} aria-label="What was done" className={`border-t-2 px-4 py-1 ${'problem' in told ? 'border-poppy bg-poppy-wash' : 'border-lagoon bg-sheet'}`}>
      <View className="flex-row items-center gap-2">
        <Text className="min-w-0 flex-1" numberOfLines={2}>
          {words}
          {'problem' in told && told.problem.remedy ? ` ${told.problem.remedy}` : ''}
        </Text>
        {'deed' in told ? (
          <Pressable role="button" onPress={() => void undo()} className="min-h-touch justify-center px-2">
            <Text kind="label" className="text-lagoon underline">
              undo
            </Text>
          </Pressable>
        ) : null}
        <IconButton icon={X} label="Put this away" onPress={dismiss} />
      </View>
      {asks ? (
        <View role="group" aria-label="How was it handed in?" className="flex-row flex-wrap items-center">
          <Text kind="label">How was it handed in?</Text>
          {CHANNELS.map(([way, name]) => (
            <Pressable
              key={way}
              role="button"
              onPress={() => void changeMarks(learnerId, asks, { handedIn: { way } }, { words: `${asks.title}: handed in ${name}` })}
              className="min-h-touch justify-center px-2"
            >
              <Text kind="label" className="text-lagoon underline">
                {name}
              </Text>
            </Pressable>
          ))}
          <Pressable role="button" onPress={dismiss} className="min-h-touch justify-center px-2">
            <Text kind="small" className="underline">
              skip
            </Text>
          </Pressable>
        </View>
      ) : null}
    </View>
  );
}
