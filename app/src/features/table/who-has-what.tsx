import type { LearnerRow, LearnersDays } from '@zephyrfield/core/api/table';
import { parseDate } from '@zephyrfield/core/time/civil';
import { dayWord } from '@zephyrfield/core/view/load';
import { clockTime, longDay, shortDay, type Viewer } from '@zephyrfield/core/words/when';
import { isWork } from '@zephyrfield/core/item/kind';
import { KIND_WORDS } from '@zephyrfield/core/item/words';
import { partShared } from '@zephyrfield/core/view/shared';
import { useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearnersDays } from '@/data/table';
import { Choices } from '@/ui/choices';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';
import { firstName } from '@zephyrfield/core/words/text';

interface Props {
  rows: readonly LearnerRow[];
  /** First day of the week that is looked at */
  week: string;
  viewer: Viewer;
  onClose(): void;
}

const ALL = 'all';

/** Who has what in a week, or on one of its days: by day, each learner with what stands there. */
export function WhoHasWhat({ rows, week, viewer, onClose }: Props) {
  const days = useLearnersDays(
    rows.map((r) => r.learnerId),
    week,
    7,
  );
  const [day, setDay] = useState(ALL);
  const names = new Map(rows.map((r) => [r.learnerId, r.name]));
  const shown = days.data?.filter((d) => day === ALL || d.day === day) ?? [];
  const hasAny = shown.some((d) => d.learners.some((l) => l.items.length));
  return (
    <Sheet label="Who has what" roomy onClose={onClose}>
      <View className="gap-2">
        <View className="pr-10">
          <Text kind="title" heading={2}>
            {`Week of ${longDay(parseDate(week)).replace(/^\w+ /, '')}`}
          </Text>
        </View>
        <Choices
          label="Which day"
          all={[
            [ALL, 'all days'],
            ...(days.data ?? []).map((d) => [d.day, shortDay(parseDate(d.day))] as const),
          ]}
          value={day}
          onChange={setDay}
        />
        <ProblemNotice problem={days.error && problemOf(days.error)} />
        {days.data && !hasAny ? <Text>Nobody has anything then.</Text> : null}
        {shown.map((each) => (
          <OneDay key={each.day} day={each} names={names} viewer={viewer} />
        ))}
      </View>
    </Sheet>
  );
}

function OneDay({
  day: each,
  names,
  viewer,
}: {
  day: LearnersDays[number];
  names: ReadonlyMap<string, string>;
  viewer: Viewer;
}) {
  const { shared, own } = useMemo(() => partShared(each.learners), [each]);
  const busy = own.filter((l) => l.items.length);
  if (!busy.length && !shared.length) return null;
  return (
    <View className="gap-1 border-t border-line pt-2">
      <Text kind="lead" heading={3}>
        {longDay(parseDate(each.day))}
      </Text>
      {shared.map(({ item, learnerIds }) => (
        <Shared
          key={`${item.itemId} ${item.recurrenceId}`}
          item={item}
          names={learnerIds.map((id) => names.get(id) ?? '')}
          viewer={viewer}
        />
      ))}
      {busy.map(({ learnerId, minutes, items }) => (
        <View key={learnerId} className="gap-x-3 pb-1">
          <Text kind="strong">
            {firstName(names.get(learnerId) ?? '')}
            {minutes ? <Text kind="small">{` ${dayWord(minutes)}`}</Text> : null}
          </Text>
          <View className="min-w-0 flex-1">
            {items.map((item) => (
              <Item key={`${item.itemId} ${item.recurrenceId}`} item={item} viewer={viewer} />
            ))}
          </View>
        </View>
      ))}
    </View>
  );
}

/** Up to so many are named at once. */
const NAMED = 3;

/** What several have in common, once, with who they are: of many, after a press. */
function Shared({ item, names, viewer }: ItemProps & { names: readonly string[] }) {
  const [isOpen, setOpen] = useState(false);
  const isFew = names.length <= NAMED;
  const said = names.map(firstName).join(', ');
  return (
    <View className="pb-1">
      <Item item={item} viewer={viewer} />
      {isFew || isOpen ? <Text kind="small">{said}</Text> : null}
      {isFew ? null : (
        <Pressable
          role="button"
          aria-expanded={isOpen}
          aria-label={`${names.length} learners have ${item.title}`}
          onPress={() => setOpen(!isOpen)}
          className="min-h-[24px] justify-center self-start"
        >
          <Text kind="small" className="font-bold text-lagoon underline">{`${names.length} learners`}</Text>
        </Pressable>
      )}
    </View>
  );
}

interface ItemProps {
  item: LearnersDays[number]['learners'][number]['items'][number];
  viewer: Viewer;
}

function Item({ item, viewer }: ItemProps) {
  return (
    <View className="flex-row items-center gap-2">
      <Flag colour={item.calendar.colour} flag={item.calendar.flag} size={16} />
      <Text className={`min-w-0 flex-shrink ${item.finished ? 'text-ink2 line-through' : ''}`}>
        {item.title}
      </Text>
      <Text kind="small">
        {[
          isWork(item.kind) && item.kind !== 'assignment' ? KIND_WORDS[item.kind] : '',
          item.when.kind === 'date' ? '' : clockTime(item.when, viewer),
        ]
          .filter(Boolean)
          .join(', ')}
      </Text>
    </View>
  );
}
