import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { instantOf } from '@zephyrfield/core/time/when';
import { plural } from '@zephyrfield/core/words/text';
import { shortWhen, type Viewer } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { View } from 'react-native';
import { Link } from '@/router';
import { problemOf } from '@/data/client';
import { forgetOutline, useOutlines } from '@/data/outlines';
import { Button } from '@/ui/button';
import { linkLook } from '@/ui/link-look';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';

interface Props {
  learnerId: string;
  calendars: readonly CalendarView[];
  viewer: Viewer;
  mayEdit: boolean;
}

/** Course outlines that calendars were filled from, to look up or to bring up to date. */
export function KeptOutlines({ learnerId, calendars, viewer, mayEdit }: Props) {
  const { data, error } = useOutlines(learnerId);
  const forget = useMutation({ mutationFn: (id: string) => forgetOutline(learnerId, id) });
  if (!data?.length && !error) return null;
  const failure = error ?? forget.error;
  return (
    <View role="group" aria-label="Outlines" className="gap-2 rounded-xl bg-sheet px-4 py-3 shadow-sm">
      <Text kind="lead" heading={2}>
        Outlines
      </Text>
      <ProblemNotice problem={failure && problemOf(failure)} />
      {data?.map(({ id, name, calendarId, items, readAt }) => (
        <View key={id} role="group" aria-label={name} className="border-t border-dashed border-line pt-1">
          <Text kind="strong" className="break-words">
            {name}
          </Text>
          <Text kind="small">
            {[
              calendars.find((c) => c.id === calendarId)?.name,
              `${plural(items.length, 'item')}, read ${shortWhen(instantOf(Date.parse(readAt)), viewer)}`,
            ]
              .filter(Boolean)
              .join(' · ')}
          </Text>
          <View className="flex-row flex-wrap items-center gap-x-4">
            <Link href={`/outline?id=${id}`} className={`${linkLook('body')} py-2`}>
              Look it up
            </Link>
            {mayEdit ? (
              <>
                <Link href={`/outline?newer=${id}`} className={`${linkLook('body')} py-2`}>
                  Give a newer version
                </Link>
                <Button
                  kind="quiet"
                  className="px-1"
                  aria-label={`Let go of ${name}`}
                  onPress={() => forget.mutate(id)}
                >
                  Let go
                </Button>
              </>
            ) : null}
          </View>
        </View>
      ))}
    </View>
  );
}
