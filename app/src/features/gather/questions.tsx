import type { CalendarView, Questions as Asked } from '@zephyrfield/core/api/schemas';
import { plural } from '@zephyrfield/core/words/text';
import { shortWhen } from '@zephyrfield/core/words/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { useState } from 'react';
import { View } from 'react-native';
import { useLearner } from '@/data/learner';
import { ANSWERS, letGo, matchItem, sayWhatItIs, sayWhetherSame, useQuestions } from '@/data/questions';
import { Answers } from '@/ui/answers';
import { useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

/** What only a person can say of what was gathered: which two are one, and what became of what they had marked. */
export function Questions() {
  const { learner, viewer } = useLearner()!;
  const { data } = useQuestions(learner.id);
  const calendars = useCalendars(learner.id).data ?? [];
  if (!data || !(data.maybeSame.length || data.unmatched.length || data.doubtful.length)) return null;
  const named = (id: string) => calendars.find((c) => c.id === id);
  return (
    <View role="group" aria-label="Questions" className="gap-4 rounded-xl bg-lagoon-wash p-4">
      {data.unmatched.length ? (
        <View className="gap-3">
          <Text kind="title" heading={2}>
            What became of these?
          </Text>
          <Text>
            {data.unmatched.length === 1 ? 'Something you had marked is' : 'Things you had marked are'} no
            longer in the calendar. Where one has only been renamed, say which it is now, and it keeps what
            you added.
          </Text>
          {data.unmatched.map((lost) => (
            <Lost
              key={lost.itemId}
              lost={lost}
              calendar={named(lost.calendarId)}
              learnerId={learner.id}
              viewer={viewer}
            />
          ))}
        </View>
      ) : null}
      {data.doubtful.length ? (
        <View className="gap-3">
          <Text kind="title" heading={2}>
            Is this work to do?
          </Text>
          <Text>These calendars do not say it clearly. Your answer counts for new entries too.</Text>
          {data.doubtful.map((each) => (
            <View
              key={each.itemId}
              role="group"
              aria-label={each.title}
              className="gap-1 rounded-lg bg-sheet p-3"
            >
              <Line
                calendar={named(each.calendarId)}
                title={each.title}
                when={
                  each.count > 1 ? `and ${each.count - 1} like it` : each.when && shortWhen(each.when, viewer)
                }
              />
              <Answers answers={ANSWERS} onAnswer={(kind) => void sayWhatItIs(learner.id, each, kind)} />
            </View>
          ))}
        </View>
      ) : null}
      {data.maybeSame.length ? (
        <View className="gap-3">
          <Text kind="title" heading={2}>
            The same thing twice?
          </Text>
          <Text>
            {plural(data.maybeSame.length, 'pair')} on the same day{' '}
            {data.maybeSame.length === 1 ? 'has' : 'have'} nearly the same name. What is the same is shown
            once.
          </Text>
          {data.maybeSame.map(({ a, b }) => (
            <View
              key={`${a.itemId} ${b.itemId}`}
              role="group"
              aria-label={a.title}
              className="gap-1 rounded-lg bg-sheet p-3"
            >
              {[a, b].map((each) => (
                <Line
                  key={each.itemId}
                  calendar={named(each.calendarId)}
                  title={each.title}
                  when={each.when && shortWhen(each.when, viewer)}
                />
              ))}
              <View className="flex-row flex-wrap gap-2 pt-1">
                <Button kind="second" onPress={() => void sayWhetherSame(learner.id, a, b, true)}>
                  They are the same
                </Button>
                <Button kind="quiet" onPress={() => void sayWhetherSame(learner.id, a, b, false)}>
                  They are two things
                </Button>
              </View>
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}

function Line({
  calendar,
  title,
  when,
}: {
  calendar: CalendarView | undefined;
  title: string;
  when: string | null;
}) {
  return (
    <View className="flex-row items-center gap-2">
      {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={17} /> : null}
      <View className="min-w-0 flex-1">
        <Text kind="strong">{title}</Text>
        <Text kind="small">{[calendar?.name, when].filter(Boolean).join(' · ')}</Text>
      </View>
    </View>
  );
}

function Lost({
  lost,
  calendar,
  learnerId,
  viewer,
}: {
  lost: Asked['unmatched'][number];
  calendar: CalendarView | undefined;
  learnerId: string;
  viewer: Zone;
}) {
  const [chosen, setChosen] = useState('');
  const found = lost.offered.find((o) => o.itemId === chosen);
  return (
    <View role="group" aria-label={lost.title} className="gap-2 rounded-lg bg-sheet p-3">
      <Line calendar={calendar} title={lost.title} when={null} />
      <Choice
        label="It is now"
        value={chosen}
        onChange={(e) => setChosen(e.currentTarget.value)}
        options={[
          { value: '', words: 'choose …' },
          ...lost.offered.map((o) => ({
            value: o.itemId,
            words: o.when ? `${o.title}, ${shortWhen(o.when, viewer)}` : o.title,
          })),
        ]}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button
          kind="second"
          disabled={!found}
          onPress={() => found && void matchItem(learnerId, lost, found)}
        >
          That is it
        </Button>
        <Button kind="quiet" onPress={() => void letGo(learnerId, lost)}>
          It is gone
        </Button>
      </View>
    </View>
  );
}
