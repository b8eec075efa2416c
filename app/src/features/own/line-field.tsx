import type { Doubt, Mark, MarkKind } from '@zephyrfield/core/item/quick/line';
import type { KeyboardEvent } from 'react';
import { Pressable, View } from 'react-native';
import { MarkedField, type Stretch } from '@/ui/field';
import { Text } from '@/ui/text';

interface Props {
  line: string;
  marks: readonly Mark[];
  doubts: readonly Doubt[];
  onChange(line: string): void;
  onKeyDown(e: KeyboardEvent): void;
}

const UNDERSTOOD = 'bg-lagoon-wash shadow-[inset_0_-2px_0_var(--lagoon)]';
const CLASSES: Record<MarkKind, string> = {
  day: UNDERSTOOD,
  time: UNDERSTOOD,
  length: UNDERSTOOD,
  repeat: UNDERSTOOD,
  calendar: 'bg-line shadow-[inset_0_-2px_0_var(--ink2)]',
};
const DOUBTFUL = 'bg-lagoon-wash shadow-[inset_0_-3px_0_var(--marigold)]';

/**
 * All of it in one line. What is understood is marked where it stands; what may be meant otherwise is asked,
 * and the answer is written into the line.
 */
export function LineField({ line, marks, doubts, onChange, onKeyDown }: Props) {
  const isDoubtful = ({ from, to }: Mark) => doubts.some((d) => d.from < to && d.to > from);
  const stretches = marks.map((m): Stretch => ({
    from: m.from,
    to: m.to,
    className: isDoubtful(m) ? DOUBTFUL : CLASSES[m.kind],
  }));
  return (
    <View className="gap-2">
      <MarkedField
        label="In one line"
        hint="Such as: ceramics sketchbook fri 16:00 45 min"
        value={line}
        stretches={stretches}
        autoFocus
        autoComplete="off"
        spellCheck={false}
        maxLength={500}
        onChange={(e) => onChange(e.currentTarget.value)}
        onKeyDown={onKeyDown}
      />
      <View role="status" className="gap-1">
        {doubts.map((doubt) => (
          <View
            key={`${doubt.from} ${doubt.words}`}
            role="group"
            aria-label={doubt.words}
            className="flex-row flex-wrap items-center gap-x-4"
          >
            <Text kind="small" className="text-marigold">
              {doubt.words}
            </Text>
            {doubt.choices.map(({ words, text }) => (
              <Pressable
                key={text}
                role="button"
                className="min-h-touch justify-center"
                onPress={() => onChange(line.slice(0, doubt.from) + text + line.slice(doubt.to))}
              >
                <Text kind="label" className="text-lagoon underline">
                  {words}
                </Text>
              </Pressable>
            ))}
          </View>
        ))}
      </View>
    </View>
  );
}
