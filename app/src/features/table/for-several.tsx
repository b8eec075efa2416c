import type { LearnerRow } from '@zephyrfield/core/api/table';
import { calmest, daysForSeveral } from '@zephyrfield/core/plan/clashes';
import { formatDate, parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { plural } from '@zephyrfield/core/words/text';
import { today, type Viewer } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { useDraft } from '@/data/draft';
import { useNow } from '@/data/now';
import { problemOf } from '@/data/client';
import { useOwnLearner, usePublications } from '@/data/publish';
import { useCalendars } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { useLearnersDays } from '@/data/table';
import { Button, IconButton } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { DayCards } from '@/ui/day-cards';
import { Choice } from '@/ui/field';
import { Text } from '@/ui/text';
import { Link } from '@/router';
import { linkLook } from '@/ui/link-look';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import ChevronRight from 'lucide-react-native/icons/chevron-right';

interface Props {
  rows: readonly LearnerRow[];
  viewer: Viewer;
  onClose(): void;
}

/**
 * The days of a week as dates for several: what stands against each, and which is calmest. A press begins an item on
 * that day in a calendar that they follow.
 */
export function ForSeveral({ rows, viewer, onClose }: Props) {
  const now = useNow();
  const own = useOwnLearner();
  const calendars = useCalendars(own?.id ?? '').data?.filter((c) => c.handMade) ?? [];
  const publications = usePublications(own?.id).data ?? [];
  const followed = calendars.filter((c) => publications.some((p) => p.calendarId === c.id));
  const [calendarId, setCalendarId] = useState('');
  const [week, setWeek] = useState(startOfWeek(today(now, viewer), 1) + 7);
  const chosen = followed.find((c) => c.id === calendarId) ?? followed[0];
  const of = publications.find((p) => p.calendarId === chosen?.id)?.to ?? [];
  const ids = rows
    .map((r) => r.learnerId)
    .filter((id) => !chosen || of.some((o) => o.learnerId === id && o.state === 'taken'));
  const days = useLearnersDays(ids, formatDate(week), 7);
  const shown = daysForSeveral(
    (days.data ?? []).map((d) => ({ day: parseDate(d.day), learners: d.learners })),
  ).filter((d, i) => i < 5 || d.weight > 0);
  const best = calmest(shown);
  if (!own || !followed.length)
    return (
      <View className="gap-2 rounded-xl bg-sheet p-4">
        <Text>
          A date for several stands in a calendar that they follow. Begin one in{' '}
          <Link href="/for-others" className={linkLook('body')}>
            Calendars for others
          </Link>
          , and offer it to them.
        </Text>
      </View>
    );
  return (
    <View role="region" aria-label="A date for several" className="gap-3 rounded-xl bg-sheet p-4 shadow-sm">
      <View className="flex-row flex-wrap items-center gap-3">
        <View className="min-w-[200px]">
          <Choice
            label="In the calendar"
            value={chosen!.id}
            options={followed.map((c) => ({ value: c.id, words: c.name }))}
            onChange={(e) => setCalendarId(e.currentTarget.value)}
          />
        </View>
        <Text className="flex-1">{`for ${plural(ids.length, 'learner')} who follow it`}</Text>
        <IconButton icon={ChevronLeft} label="The week before" onPress={() => setWeek(week - 7)} />
        <IconButton icon={ChevronRight} label="The week after" onPress={() => setWeek(week + 7)} />
        <Button kind="quiet" className="px-2" onPress={onClose}>
          Close
        </Button>
      </View>
      <ProblemNotice problem={days.error && problemOf(days.error)} />
      <DayCards
        days={shown}
        best={best?.day ?? null}
        chosen={null}
        onDay={(day) => {
          useScreen.getState().chooseLearner(own.id);
          useDraft.getState().begin(own.id, { day: formatDate(day), calendarId: chosen!.id });
        }}
      />
    </View>
  );
}
