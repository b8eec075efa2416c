import { keyOf } from '@zephyrfield/core/item/occurrence';
import { changeWords } from '@zephyrfield/core/item/change';
import { standingTitle } from '@zephyrfield/core/plan/standing';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { plural } from '@zephyrfield/core/words/text';
import { daysAway, longDay } from '@zephyrfield/core/words/when';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Link } from '@/router';
import { useSeeAs } from '@/data/see-as';
import { useNotices } from '@/data/notices';
import { useChanges } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { linkLook } from '@/ui/link-look';
import { Text } from '@/ui/text';
import { Part } from '@/ui/part';
import type { Today } from './use-today';

/** How many of what comes are drawn at first, and more at each asking. */
const STEP = 60;

interface Props {
  today: Today;
  /** Draws one entry */
  slip(entry: AgendaEntry): ReactNode;
}

/** What is not for tonight: what changed, what reminders said, what comes. */
export function Ahead({ today, slip }: Props) {
  return (
    <>
      <Tomorrow today={today} slip={slip} />
      <Unsettled today={today} />
      <Changed today={today} />
      <Notices />
      <NextUp today={today} slip={slip} />
    </>
  );
}

/** All that is on the next day. */
function Tomorrow({ today: { seen }, slip }: Props) {
  const entries = seen.upcoming.filter((e) => e.day === seen.day + 1);
  return (
    <Part title="Tomorrow" aside={longDay(seen.day + 1)}>
      {entries.map((e) => slip(e))}
      {entries.length ? null : <Text className="text-ink2">Nothing tomorrow.</Text>}
    </Part>
  );
}

/** Where what is planned no longer holds, the way to where that is said. */
function Unsettled({ today: { troubles } }: { today: Today }) {
  if (!troubles.length) return null;
  return (
    <View role="group" aria-label="The plan" className="flex-row flex-wrap items-center gap-x-3 pt-5">
      <Text>{standingTitle(troubles)}.</Text>
      <Link href="/plan" className={linkLook()}>
        make a new plan
      </Link>
    </View>
  );
}

function Changed({ today: { learner, viewer, byId } }: { today: Today }) {
  const unseen = useChanges(learner.id).data?.filter((c) => !c.seen) ?? [];
  if (!unseen.length) return null;
  return (
    <Part
      title="Since you last looked"
      aside={
        <Link href="/changes" className={linkLook()}>
          {unseen.length > 5 ? `all ${unseen.length}` : 'look'}
        </Link>
      }
    >
      {unseen.slice(0, 5).map((change) => {
        const calendar = byId.get(change.calendarId);
        return (
          <View key={change.id} className="flex-row items-center gap-2">
            {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={14} /> : null}
            <Text className="flex-1">
              <Text kind="strong">{change.title}</Text> {changeWords(change, viewer)}
            </Text>
          </View>
        );
      })}
    </Part>
  );
}

/** Says how much of the news is not seen yet, with the ways to it and to the day sheet. */
function Notices() {
  const { unseen = 0 } = useNotices().data ?? {};
  // What one is told oneself is no part of what somebody else sees.
  if (useSeeAs((s) => s.as)) return null;
  return (
    <View className="flex-row flex-wrap gap-x-5 pt-3">
      {unseen ? (
        <Link href="/news" className={linkLook()}>
          {`${unseen} not seen yet in News`}
        </Link>
      ) : null}
      <Link href="/day-sheet" className={linkLook()}>
        Day sheet
      </Link>
    </View>
  );
}

/** All that comes in the days after tomorrow, of all calendars or of one. */
function NextUp({ today: { seen, calendars, ahead }, slip }: Props) {
  const [course, setCourse] = useState('');
  const [most, setMost] = useState(STEP);
  const upcoming = seen.upcoming.filter(
    (e) => e.day > seen.day + 1 && (!course || e.occurrence.calendarId === course),
  );
  return (
    <Part title="Next up" aside={`${plural(ahead, 'day')} ahead`}>
      <Choice
        label="Calendar"
        value={course}
        onChange={(e) => setCourse(e.currentTarget.value)}
        options={[
          { value: '', words: 'all calendars' },
          ...(calendars ?? []).map((c) => ({ value: c.id, words: c.name })),
        ]}
      />
      {upcoming.slice(0, most).map((e, i) => (
        <View key={keyOf(e.occurrence)} className="gap-2">
          {upcoming[i - 1]?.day === e.day ? null : (
            <Text kind="label" className="pt-1">
              {longDay(e.day)} <Text kind="small">{daysAway(e.day, seen.day)}</Text>
            </Text>
          )}
          {slip(e)}
        </View>
      ))}
      {upcoming.length > most ? (
        <Button kind="quiet" onPress={() => setMost(most + STEP)} className="self-start">
          {`${upcoming.length - most} more`}
        </Button>
      ) : null}
      {upcoming.length === 0 ? <Text className="text-ink2">Nothing in these days.</Text> : null}
    </Part>
  );
}
