import { weekWord } from '@zephyrfield/core/view/load';
import { hoursWords } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { Barb } from '@/ui/barb';
import { Text } from '@/ui/text';

interface Props {
  name: string;
  /** Of work in the week */
  minutes: number;
  /** Width of the margin it stands in, in pixels; left out, it is a line above its week */
  width?: number;
}

/** A week’s name and load. */
export function WeekHead({ name, minutes, width }: Props) {
  return (
    <View
      role="rowheader"
      style={width ? { width } : undefined}
      className={width ? 'gap-1 px-2 pt-1' : 'h-[18px] flex-row items-center gap-2 px-2'}
      aria-label={`${name}, ${minutes ? hoursWords(minutes) : 'no work'}, ${weekWord(minutes)}`}
    >
      <Text kind="tight" numberOfLines={width ? 2 : 1} className="text-ink2">
        {name}
      </Text>
      {minutes >= 15 ? <Barb minutes={minutes} size={width ? 40 : 26} colour="var(--ink2)" /> : null}
    </View>
  );
}
