import { sittingId, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { firstName } from '@zephyrfield/core/words/text';
import { hoursWords, minuteWords } from '@zephyrfield/core/words/when';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useLearner } from '@/data/learner';
import { useOpenSitting } from '@/data/open-sitting';
import { EVERYBODY } from '@/data/queries';
import { Link } from '@/router';
import { linkLook } from '@/ui/link-look';
import { Part } from '@/ui/part';
import { Strip } from '@/ui/strip';
import { Text } from '@/ui/text';
import type { Today } from './use-today';

interface Props {
  today: Today;
  /** Draws one entry, with more small print where there is more to say */
  slip(entry: AgendaEntry, isUnderDay?: boolean, more?: string): ReactNode;
}

/** Answers what there is to do tonight: all that is due, then what one sits down to, and who has nothing. */
export function Tonight({ today, slip }: Props) {
  const { tonight, viewer, learner } = today;
  const { work, sittings, finished, minutes } = tonight;
  const hours = viewer.hours ?? 24;
  const count = work.length + sittings.filter((s) => s.sitting.state === 'planned').length;
  const isNothing = !work.length && !sittings.length;
  return (
    <Part
      title="Tonight"
      aside={
        isNothing ? (
          ''
        ) : (
          <View className="-my-2.5 flex-row flex-wrap items-center gap-x-3">
            <Text kind="small">
              {count ? `${count} to do${minutes ? ` · ${hoursWords(minutes)}` : ''}` : 'all done'}
            </Text>
            <Link href="/plan" className={linkLook()}>
              plan
            </Link>
          </View>
        )
      }
    >
      {work.map(({ entry, sittings: own }) =>
        slip(entry, true, own.map((s) => sittingWords(s, hours)).join(', ')),
      )}
      {sittings.map((entry) => (
        <Strip
          key={sittingId(entry)}
          entry={entry}
          calendar={today.byId.get(entry.occurrence.calendarId)}
          hours={hours}
          onOpen={() => useOpenSitting.getState().open(sittingId(entry))}
        />
      ))}
      {finished.map((entry) => slip(entry))}
      {isNothing && learner.id !== EVERYBODY ? (
        <Text className="text-ink2">
          {finished.length ? 'All of tonight is done.' : 'Nothing to do tonight.'}
        </Text>
      ) : null}
      <WhoHasNothing today={today} />
    </Part>
  );
}

const sittingWords = ({ sitting }: SittingEntry, hours: 12 | 24) =>
  `${minuteWords(sitting.from % 1440, hours)}, ${hoursWords(sitting.minutes)}`;

/** Names each of several learners who has nothing to do tonight: that is an answer too. */
function WhoHasNothing({ today: { learner, tonight, byId } }: { today: Today }) {
  const learners = useLearner()?.learners ?? [];
  if (learner.id !== EVERYBODY) return null;
  const of = ({ occurrence }: Pick<AgendaEntry, 'occurrence'>) => byId.get(occurrence.calendarId)?.learnerId;
  const busy = new Set([...tonight.work.map(({ entry }) => of(entry)), ...tonight.sittings.map(of)]);
  const free = learners.filter((l) => !busy.has(l.id));
  return free.map((l) => (
    <View key={l.id} className="rounded-lg bg-sheet px-3 py-2">
      <Text>
        <Text kind="strong">{firstName(l.name)}</Text> has nothing to do tonight.
      </Text>
    </View>
  ));
}
