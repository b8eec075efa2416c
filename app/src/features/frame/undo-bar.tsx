import type { HandInWay } from '@zephyrfield/core/item/kind';
import X from 'lucide-react-native/icons/x';
import { useEffect } from 'react';
import { Pressable, View } from 'react-native';
import { useUndo } from '@/data/undo';
import { useLearner } from '@/data/learner';
import { changeLayer } from '@/data/layer';
import { IconButton } from '@/ui/button';
import { Text } from '@/ui/text';

/** Time it stays, in milliseconds, where nothing is asked. The key for undoing works on afterwards. */
const STAYS = 15_000;

const WAYS: readonly (readonly [HandInWay, string])[] = [
  ['online', 'online'],
  ['paper', 'on paper'],
  ['mail', 'by mail'],
  ['inClass', 'in class'],
];

/** What was just done, with the way back; and, where it matters, one question that may be left unanswered. */
export function UndoBar() {
  const { message, undo, dismiss } = useUndo();
  const learnerId = useLearner()?.learner.id;
  const asks = message && 'step' in message ? message.step.asks : undefined;
  useEffect(() => {
    if (!message || 'problem' in message || asks) return;
    const timer = setTimeout(dismiss, STAYS);
    return () => clearTimeout(timer);
  }, [message, asks, dismiss]);
  if (!message || !learnerId) return null;
  const words =
    'problem' in message ? message.problem.title : 'step' in message ? message.step.words : message.words;
  return (
    <View
      role={'problem' in message ? 'alert' : 'status'}
      aria-label="Last change"
      className={`border-t-2 px-4 py-1 ${'problem' in message ? 'border-poppy bg-poppy-wash' : 'border-lagoon bg-sheet'}`}
    >
      <View className="flex-row items-center gap-2">
        <Text className="min-w-0 flex-1" numberOfLines={2}>
          {words}
          {'problem' in message && message.problem.remedy ? ` ${message.problem.remedy}` : ''}
        </Text>
        {'step' in message ? (
          <Pressable role="button" onPress={() => void undo()} className="min-h-touch justify-center px-2">
            <Text kind="label" className="text-lagoon underline">
              Undo
            </Text>
          </Pressable>
        ) : null}
        <IconButton icon={X} label="Dismiss" onPress={dismiss} />
      </View>
      {asks ? (
        <View role="group" aria-label="How was it handed in?" className="flex-row flex-wrap items-center">
          <Text kind="label">How was it handed in?</Text>
          {WAYS.map(([way, name]) => (
            <Pressable
              key={way}
              role="button"
              onPress={() =>
                void changeLayer(
                  learnerId,
                  asks,
                  { handedIn: { way } },
                  { words: `${asks.title}: handed in ${name}` },
                )
              }
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
