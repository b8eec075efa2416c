import { View } from 'react-native';
import { Button } from './button';

/** A row of answers to a question; the first is the likeliest. */
export function Answers<T extends string>({
  answers,
  onAnswer,
}: {
  answers: readonly { words: string; value: T }[];
  onAnswer(value: T): void;
}) {
  return (
    <View className="flex-row flex-wrap gap-2 pt-1">
      {answers.map(({ words, value }, i) => (
        <Button key={value} kind={i === 0 ? 'second' : 'quiet'} onPress={() => onAnswer(value)}>
          {words}
        </Button>
      ))}
    </View>
  );
}
