import {
  COLOURS,
  FLAG_PATTERNS,
  FLAG_SHAPES,
  type Colour,
  type Flag as FlagData,
} from '@zephyrfield/core/item/flag';
import { Pressable, View } from 'react-native';
import { Field } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

interface Props {
  flag: FlagData;
  colour: Colour;
  error: { message?: string; letters?: { message?: string } } | undefined;
  onFlag(flag: FlagData): void;
  onColour(colour: Colour): void;
}

/** Chooses a calendar's colour and flag. Every choice shows the whole flag as it would fly. */
export function FlagChooser({ flag, colour, error, onFlag, onColour }: Props) {
  return (
    <View className="gap-3">
      <View className="flex-row items-end gap-4">
        <View className="items-center pb-1">
          <Flag colour={colour} flag={flag} size={40} />
        </View>
        <View className="w-[150px]">
          <Field
            label="Flag’s letters"
            error={error?.letters?.message ?? error?.message}
            maxLength={3}
            value={flag.letters}
            onChange={(e) => onFlag({ ...flag, letters: e.currentTarget.value.toUpperCase() })}
          />
        </View>
      </View>
      <Row
        label="Colour"
        all={COLOURS}
        value={colour}
        onChoose={onColour}
        draw={(c) => <Flag colour={c} flag={{ shape: 'square', pattern: 'plain' }} size={20} />}
      />
      <Row
        label="Shape"
        all={FLAG_SHAPES}
        value={flag.shape}
        onChoose={(shape) => onFlag({ ...flag, shape })}
        draw={(shape) => <Flag colour={colour} flag={{ shape, pattern: flag.pattern }} size={20} />}
      />
      <Row
        label="Pattern"
        all={FLAG_PATTERNS}
        value={flag.pattern}
        onChoose={(pattern) => onFlag({ ...flag, pattern })}
        draw={(pattern) => <Flag colour={colour} flag={{ shape: flag.shape, pattern }} size={20} />}
      />
    </View>
  );
}

function Row<T extends string>({
  label,
  all,
  value,
  onChoose,
  draw,
}: {
  label: string;
  all: readonly T[];
  value: T;
  onChoose(value: T): void;
  draw(value: T): React.ReactNode;
}) {
  return (
    <View role="radiogroup" aria-label={label} className="gap-1">
      <Text kind="label">{label}</Text>
      <View className="flex-row flex-wrap gap-1">
        {all.map((each) => (
          <Pressable
            key={each}
            role="radio"
            aria-checked={each === value}
            tabIndex={each === value ? 0 : -1}
            aria-label={each}
            onPress={() => onChoose(each)}
            className={`min-h-touch min-w-[48px] items-center justify-center rounded-lg border-2 ${each === value ? 'border-lagoon bg-lagoon-wash' : 'border-transparent hover:bg-lagoon-wash'}`}
          >
            {draw(each)}
          </Pressable>
        ))}
      </View>
    </View>
  );
}
