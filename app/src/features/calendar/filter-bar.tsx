import { HAND_IN_WAYS, ITEM_KINDS } from '@zephyrfield/core/item/kind';
import { NO_FILTERS, STATES, isFiltering, type Filters } from '@zephyrfield/core/view/filter';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { URGENCY_WORDS } from '@zephyrfield/core/view/slips';
import { plural } from '@zephyrfield/core/words/text';
import { Pressable, View } from 'react-native';
import { choiceBox, choiceWords } from '@/ui/choices';
import { Field } from '@/ui/field';
import { Text } from '@/ui/text';
import { useFocusBack } from '@/ui/use-focus-back';

interface Props {
  filters: Filters;
  /** How many items pass, in what is loaded */
  count: number;
  /**
   * Whether they can be chosen, and what opened them: a key is followed by words, a press may be by anything
   */
  open: false | 'key' | 'press';
  onChange(filters: Filters): void;
}

/**
 * What is looked for: chosen below the flag line while open, and told in one line while on, with one press to
 * clear it.
 */
export function FilterBar({ filters, count, open, onChange }: Props) {
  const on = isFiltering(filters);
  if (!open && !on) return null;
  const words = [
    ...filters.kinds.map((s) => KIND_WORDS[s]),
    ...filters.states.map((s) => URGENCY_WORDS[s]),
    ...filters.ways.map((w) => HAND_IN_WORDS[w]),
    ...(filters.text.trim() ? [`“${filters.text.trim()}”`] : []),
  ];
  return (
    <View className="gap-2 px-4 pb-2">
      {open ? <Panel key={open} filters={filters} isTyped={open === 'key'} onChange={onChange} /> : null}
      {on ? (
        <View role="status" className="flex-row flex-wrap items-center gap-x-2">
          <Text kind="small" className="font-bold text-lagoon">
            Only {words.join(', ')}
          </Text>
          <Text kind="small">{plural(count, 'item')}</Text>
          <Pressable
            role="button"
            onPress={() => onChange(NO_FILTERS)}
            className="min-h-touch justify-center px-1"
          >
            <Text kind="label" className="text-lagoon underline">
              clear
            </Text>
          </Pressable>
        </View>
      ) : null}
    </View>
  );
}

function Panel({ filters, isTyped, onChange }: Pick<Props, 'filters' | 'onChange'> & { isTyped: boolean }) {
  useFocusBack();
  return (
    <View role="group" aria-label="Filters" className="gap-2 rounded-xl bg-sheet p-3 shadow-sm">
      <Field
        label="Search"
        hint="In titles, courses, places and descriptions"
        type="search"
        value={filters.text}
        onChange={(e) => onChange({ ...filters, text: e.currentTarget.value })}
        autoComplete="off"
        autoFocus={isTyped}
      />
      <Choices
        label="What it is"
        all={ITEM_KINDS}
        chosen={filters.kinds}
        words={KIND_WORDS}
        onChange={(kinds) => onChange({ ...filters, kinds })}
      />
      <Choices
        label="State"
        all={STATES}
        chosen={filters.states}
        words={URGENCY_WORDS}
        onChange={(states) => onChange({ ...filters, states })}
      />
      <Choices
        label="How it is handed in"
        all={HAND_IN_WAYS}
        chosen={filters.ways}
        words={HAND_IN_WORDS}
        onChange={(ways) => onChange({ ...filters, ways })}
      />
    </View>
  );
}

function Choices<T extends string>({
  label,
  all,
  chosen,
  words,
  onChange,
}: {
  label: string;
  all: readonly T[];
  chosen: readonly T[];
  words: Record<T, string>;
  onChange(chosen: T[]): void;
}) {
  return (
    <View role="group" aria-label={label} className="gap-1">
      <Text kind="label">{label}</Text>
      <View className="flex-row flex-wrap gap-x-1">
        {all.map((each) => {
          const on = chosen.includes(each);
          return (
            <Pressable
              key={each}
              role="checkbox"
              aria-checked={on}
              onPress={() => onChange(on ? chosen.filter((c) => c !== each) : [...chosen, each])}
              className={choiceBox(on)}
            >
              <Text className={choiceWords(on)}>{words[each]}</Text>
            </Pressable>
          );
        })}
      </View>
    </View>
  );
}
