import { firstName } from '@zephyrfield/core/words/text';
import { Pressable, View } from 'react-native';
import { useLearner } from '@/data/learner';
import { useScreen } from '@/data/screen';
import { usePathname } from '@/router';
import { choiceBox, choiceWords } from '@/ui/choices';
import { Text } from '@/ui/text';

/** Places where all learners can be looked at together, and those that are about one. */
const TOGETHER: readonly string[] = ['/today', '/calendar', '/todo'];
const OF_ONE: readonly string[] = [
  ...['/plan', '/changes', '/crew', '/sharing', '/hidden', '/gather', '/gather/follow', '/gather/files'],
  '/settings',
];

/** Whose schedule is looked at, where there is a choice and the place is about one. */
export function LearnerLine() {
  const { chooseLearner, chooseEverybody } = useScreen.getState();
  const path = usePathname();
  const isTogether = TOGETHER.includes(path);
  const everybody = useScreen((s) => s.everybody) && isTogether;
  const seen = useLearner();
  if (!seen || seen.learners.length < 2 || !(isTogether || OF_ONE.includes(path))) return null;
  return (
    <View
      role="radiogroup"
      aria-label="Whose schedule"
      className={`flex-row flex-wrap gap-x-1 px-3 ${path === '/calendar' ? 'pt-2 wide:pt-0' : 'pt-2'}`}
    >
      {isTogether ? <One isChosen={everybody} words="Everybody" onPress={chooseEverybody} /> : null}
      {seen.learners.map((each) => (
        <One
          key={each.id}
          isChosen={!everybody && each.id === seen.learner.id}
          words={firstName(each.name)}
          onPress={() => chooseLearner(each.id)}
        />
      ))}
    </View>
  );
}

function One({ isChosen, words, onPress }: { isChosen: boolean; words: string; onPress(): void }) {
  return (
    <Pressable
      role="radio"
      aria-checked={isChosen}
      tabIndex={isChosen ? 0 : -1}
      onPress={onPress}
      className={choiceBox(isChosen)}
    >
      <Text className={choiceWords(isChosen)}>{words}</Text>
    </Pressable>
  );
}
