import { calmest, dateWords, daysForSeveral } from '@zephyrfield/core/plan/clashes';
import { formatDate, parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { View } from 'react-native';
import { usePublications } from '@/data/publish';
import { useLearnersDays } from '@/data/table';
import { DayCards } from '@/ui/day-cards';
import { Text } from '@/ui/text';

interface Props {
  /** The schedule that the calendar stands in */
  learnerId: string;
  calendarId: string;
  /** The day that is meant, as `2026-10-15` */
  day: string;
  onDay(day: string): void;
}

/**
 * Before a date is set in a calendar that others follow: what all of them have on the days around it, what clashes in
 * words, and calm days to choose instead.
 */
export function ForFollowers({ learnerId, calendarId, day, onDay }: Props) {
  const publications = usePublications(learnerId).data;
  const followers =
    publications
      ?.find((p) => p.calendarId === calendarId)
      ?.to.flatMap((o) => (o.state === 'taken' ? [o.learnerId] : [])) ?? [];
  const number = parseDate(day);
  const first = Number.isNaN(number) ? null : startOfWeek(number, 1);
  const days = useLearnersDays(followers, first === null ? '' : formatDate(first), 7);
  if (!followers.length || first === null || !days.data) return null;
  const all = daysForSeveral(days.data.map((d) => ({ day: parseDate(d.day), learners: d.learners })));
  const chosen = all.find((d) => d.day === number);
  const shown = all.filter((d, i) => i < 5 || d.day === number);
  return (
    <View role="group" aria-label="What all who follow it have that week" className="gap-2">
      {chosen ? <Text>{dateWords(chosen, all)}</Text> : null}
      <DayCards
        days={shown}
        best={calmest(all)?.day ?? null}
        chosen={number}
        onDay={(each) => onDay(formatDate(each))}
      />
    </View>
  );
}
