import { useEffect, useRef } from 'react';
import { Pressable, View } from 'react-native';
import { Button } from '@/ui/button';
import { elementOf } from '@/ui/element';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import type { Difference } from './differing';
import type { Fields } from './form';

interface Props {
  /** What happened to it meanwhile */
  title: string;
  differences: readonly Difference[];
  /** The form as it stands */
  fields: Fields;
  onTake(fields: Partial<Fields>): void;
}

/**
 * Somebody else, or another window, has written the same item meanwhile: both side by side where they differ.
 * What is chosen goes into the form; saving it there joins the two.
 */
export function Meanwhile({ title, differences, fields, onTake }: Props) {
  const all = (side: 'mine' | 'theirs') =>
    onTake(Object.assign({}, ...differences.map((d) => d[side].fields)) as Partial<Fields>);
  const here = useRef<View>(null);
  useEffect(() => {
    // It comes where one has not looked: below what was pressed, or above it.
    const element = elementOf(here.current)!;
    element.focus({ preventScroll: true });
    element.scrollIntoView({ block: 'start' });
  }, []);
  return (
    <View ref={here} tabIndex={-1}>
      <Notice kind="warning" title={title}>
        <Text>
          {differences.length
            ? 'What you typed is still here. Choose what counts, then save.'
            : 'What you typed is still here. Save it to bring it back.'}
        </Text>
        {differences.map((difference) => (
          <View key={difference.label} role="radiogroup" aria-label={difference.label} className="gap-1 pt-2">
            <Text kind="label">{difference.label}</Text>
            <View className="flex-row gap-2">
              {(['mine', 'theirs'] as const).map((side) => (
                <Side
                  key={side}
                  name={side === 'mine' ? 'Yours' : 'Theirs'}
                  words={difference[side].words}
                  isChosen={difference.stands(fields) === side}
                  onChoose={() => onTake(difference[side].fields)}
                />
              ))}
            </View>
          </View>
        ))}
        {differences.length > 1 ? (
          <View className="flex-row flex-wrap gap-2 pt-2">
            <Button kind="second" onPress={() => all('mine')}>
              All of yours
            </Button>
            <Button kind="second" onPress={() => all('theirs')}>
              All of theirs
            </Button>
          </View>
        ) : null}
      </Notice>
    </View>
  );
}

function Side(props: { name: string; words: string; isChosen: boolean; onChoose(): void }) {
  const { name, words, isChosen, onChoose } = props;
  return (
    <Pressable
      role="radio"
      aria-checked={isChosen}
      onPress={onChoose}
      className={`min-h-touch min-w-0 flex-1 gap-0.5 rounded-lg border-2 bg-sheet px-3 py-2 ${isChosen ? 'border-lagoon' : 'border-line hover:border-ink2'}`}
    >
      <Text kind="small" className={isChosen ? 'font-bold text-ink' : 'text-ink2'}>
        {isChosen ? `${name}, chosen` : name}
      </Text>
      <Text numberOfLines={6}>{words || 'nothing'}</Text>
    </Pressable>
  );
}
