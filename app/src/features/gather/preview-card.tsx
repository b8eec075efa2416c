import type { Preview } from '@zephyrfield/core/api/schemas';
import type { Zone } from '@zephyrfield/core/time/zone';
import { parseDate } from '@zephyrfield/core/time/civil';
import { dayIn } from '@zephyrfield/core/time/when';
import { clockTime, longDay, shortDay } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { View } from 'react-native';
import { Text } from '@/ui/text';

/** What was found behind a link, before anything is saved. */
export function PreviewCard({ preview, viewer }: { preview: Preview; viewer: Zone }) {
  const { name, entries, work, first, last, zone, courses, warnings, sample, isPlain } = preview;
  return (
    <View className="gap-3 rounded-xl bg-sheet p-4 shadow-sm" role="group" aria-label="What was found">
      <Text kind="lead" heading={2}>
        {name ? `Found “${name}”` : 'Found a calendar without a name'}
      </Text>
      <View className="gap-1">
        <Fact
          label="In it"
          words={`${plural(entries, 'entry', 'entries')}, ${work} of them to do or hand in`}
        />
        <Fact
          label="From"
          words={
            first && last
              ? `${longDay(parseDate(first))} to ${longDay(parseDate(last), Number(first.slice(0, 4)))}`
              : 'no dates'
          }
        />
        <Fact label="Time zone" words={zone ?? `not given, read as ${viewer.id}`} />
        {courses.length ? (
          <Fact label="Courses" words={courses.map((c) => `${c.name} (${c.count})`).join(', ')} />
        ) : null}
      </View>
      {isPlain ? (
        <Text kind="small" className="text-marigold">
          This link is not encrypted: on its way here, others could read it. If there is one that begins with
          https://, follow that.
        </Text>
      ) : null}
      {sample.length ? (
        <View className="gap-0.5">
          <Text kind="label">Next in it</Text>
          {sample.map((s, i) => (
            <Text key={i}>
              <Text className="text-ink2">
                {shortDay(dayIn(s.start, viewer))}
                {s.start.kind === 'date' ? '' : `, ${clockTime(s.start, viewer)}`}
              </Text>
              {'  '}
              {s.title}
            </Text>
          ))}
        </View>
      ) : null}
      {warnings.length ? (
        <View className="gap-0.5">
          <Text kind="label" className="text-marigold">
            {plural(warnings.length, 'thing')} could not be read
          </Text>
          {warnings.slice(0, 5).map((w, i) => (
            <Text key={i} kind="small">
              {w.line ? `Line ${w.line}: ` : ''}
              {w.message}
            </Text>
          ))}
          {warnings.length > 5 ? <Text kind="small">and {warnings.length - 5} more</Text> : null}
        </View>
      ) : (
        <Text kind="small">Everything in it could be read.</Text>
      )}
    </View>
  );
}

function Fact({ label, words }: { label: string; words: string }) {
  return (
    <View className="flex-row gap-3">
      <Text className="w-[88px] text-ink2">{label}</Text>
      <Text className="flex-1">{words}</Text>
    </View>
  );
}
