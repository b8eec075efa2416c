import type { CalendarView, Preview, SplitRequest } from '@zephyrfield/core/api/schemas';
import type { SplitProposal } from '@zephyrfield/core/gather/split';
import { suggestFlag, type Colour, type Flag as FlagData } from '@zephyrfield/core/item/flag';
import { plural } from '@zephyrfield/core/words/text';
import Check from 'lucide-react-native/icons/check';
import { Pressable, View } from 'react-native';
import { Field } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

/** Gives what a split goes by, in words that follow “by”. */
export function ruleWords({ by, at }: SplitProposal['rule']): string {
  switch (by) {
    case 'endTag':
      return 'the tag at the end of the title';
    case 'startTag':
      return 'the tag at the beginning of the title';
    case 'code':
      return 'the course code in the title';
    case 'prefix':
      return 'the words before the colon';
    case 'category':
      return 'its category';
    case 'address':
      return `a part of its address (${at?.replace(':', ' ')})`;
  }
}

const sameName = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** A split as it is proposed: each part under its own name, with a flag unlike those that fly already. */
function requestFrom(
  { rule, sections }: SplitProposal,
  flying: readonly Pick<CalendarView, 'colour' | 'flag'>[],
  without: string,
): SplitRequest {
  const used: { colour: Colour; flag: FlagData }[] = [...flying];
  return {
    rule,
    sections: sections.map(({ section }) => {
      const name = section ?? without;
      const look = suggestFlag(name, used);
      used.push(look);
      return { section, name, ...look };
    }),
  };
}

interface Props {
  proposals: Preview['splits'];
  flying: readonly CalendarView[];
  value: SplitRequest | null;
  /** What entries that name no course are called */
  without: string;
  errors?: readonly (string | undefined)[];
  onChange(value: SplitRequest | null): void;
}

/**
 * Makes one calendar of a link, or several: shows which, with counts, to be renamed; two of one name become
 * one.
 */
export function SplitChooser({ proposals, flying, value, without, errors = [], onChange }: Props) {
  if (!proposals.length) return null;
  const counts = new Map(
    proposals.find((p) => value && sameRule(p.rule, value.rule))?.sections.map((p) => [p.section, p.count]),
  );
  return (
    <View className="gap-3">
      <View role="radiogroup" aria-label="How many calendars" className="gap-1">
        <Text kind="label">How many calendars</Text>
        <Option chosen={value === null} onPress={() => onChange(null)} words="Just one" />
        {proposals.map((proposal) => (
          <Option
            key={`${proposal.rule.by}${proposal.rule.at ?? ''}`}
            chosen={value !== null && sameRule(proposal.rule, value.rule)}
            onPress={() => onChange(requestFrom(proposal, flying, without))}
            words={`${proposal.sections.length} calendars, by ${ruleWords(proposal.rule)}`}
            detail={proposal.sections
              .slice(0, 4)
              .map((p) => `${p.section ?? 'without'} (${p.count})`)
              .join(', ')
              .concat(proposal.sections.length > 4 ? ' …' : '')}
          />
        ))}
      </View>
      {value ? (
        <View className="gap-3">
          <Text kind="small">Give each a name. Two of one name become one calendar.</Text>
          {value.sections.map((section, i) => {
            const first = value.sections.findIndex((p) => sameName(p.name, section.name));
            const look = value.sections[first]!;
            return (
              <View key={section.section ?? ''} className="flex-row items-end gap-3">
                <View className="w-[44px] items-center pb-2">
                  {look.colour && look.flag ? <Flag colour={look.colour} flag={look.flag} size={28} /> : null}
                </View>
                <View className="flex-1">
                  <Field
                    label={`${section.section ?? 'Without a course'} · ${plural(counts.get(section.section) ?? 0, 'entry', 'entries')}`}
                    value={section.name}
                    error={errors[i]}
                    hint={first !== i ? `Goes into “${value.sections[first]!.name}” as well` : undefined}
                    onChange={(e) =>
                      onChange({
                        ...value,
                        sections: value.sections.map((p, k) =>
                          k === i ? { ...p, name: e.currentTarget.value } : p,
                        ),
                      })
                    }
                  />
                </View>
              </View>
            );
          })}
        </View>
      ) : null}
    </View>
  );
}

const sameRule = (a: SplitProposal['rule'], b: SplitProposal['rule']) => a.by === b.by && a.at === b.at;

function Option({
  chosen,
  words,
  detail,
  onPress,
}: {
  chosen: boolean;
  words: string;
  detail?: string;
  onPress(): void;
}) {
  return (
    <Pressable
      role="radio"
      aria-checked={chosen}
      onPress={onPress}
      className={`min-h-touch flex-row items-center gap-3 rounded-lg border-2 px-3 py-1 ${chosen ? 'border-lagoon bg-lagoon-wash' : 'border-line bg-sheet hover:border-lagoon'}`}
    >
      <View className="w-5">{chosen ? <Check size={20} color="var(--lagoon)" aria-hidden /> : null}</View>
      <View className="flex-1">
        <Text kind="strong">{words}</Text>
        {detail ? <Text kind="small">{detail}</Text> : null}
      </View>
    </Pressable>
  );
}
