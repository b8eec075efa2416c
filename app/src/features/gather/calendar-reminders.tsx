import type { CalendarChange, CalendarView } from '@zephyrfield/core/api/schemas';
import { REMIND_KIND_WORDS, REMIND_KINDS, ruleWords, type RemindKind } from '@zephyrfield/core/notify/rules';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { useSettings } from '@/data/learner';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { ReminderRules } from '@/ui/reminder-rules';
import { Text } from '@/ui/text';

/**
 * When to remind of what is in one calendar, where that is not as for the whole schedule. Saved as it is
 * changed.
 */
export function CalendarReminders({ calendar }: { calendar: CalendarView }) {
  const client = useQueryClient();
  const { hours } = useSettings();
  const [kind, setKind] = useState<RemindKind>('work');
  const save = useMutation({
    mutationFn: (body: CalendarChange) => call('changeCalendar', { params: { id: calendar.id }, body }),
    onSuccess: () => refreshLearner(client, calendar.learnerId),
  });
  const own = calendar.reminders?.[kind];
  const without = () => {
    const { [kind]: _gone, ...rest } = calendar.reminders ?? {};
    return Object.keys(rest).length ? rest : null;
  };
  return (
    <View role="group" aria-label="When to remind" className="gap-3 rounded-xl border border-line p-3">
      <Text kind="lead" heading={3}>
        Reminders
      </Text>
      {calendar.handMade ? null : (
        <Choice
          label="Alarms in the feed"
          value={calendar.alarms}
          onChange={(e) => save.mutate({ alarms: e.currentTarget.value as CalendarView['alarms'] })}
          options={[
            { value: 'ignore', words: 'ignore them' },
            { value: 'use', words: 'use them' },
          ]}
        />
      )}
      <Choice
        label="For"
        value={kind}
        onChange={(e) => setKind(e.currentTarget.value as RemindKind)}
        options={REMIND_KINDS.map((value) => ({ value, words: REMIND_KIND_WORDS[value].toLowerCase() }))}
      />
      {own ? (
        <>
          <ReminderRules
            label={`${REMIND_KIND_WORDS[kind]} in ${calendar.name}`}
            rules={own}
            hours={hours}
            onChange={(rules) => save.mutate({ reminders: { ...calendar.reminders, [kind]: rules } })}
          />
          <Button
            kind="quiet"
            onPress={() => save.mutate({ reminders: without() })}
            className="-ml-4 self-start"
          >
            Same as the whole schedule
          </Button>
        </>
      ) : (
        <>
          <Text kind="small">Same as the whole schedule.</Text>
          <Button
            kind="quiet"
            onPress={() =>
              save.mutate({
                reminders: { ...calendar.reminders, [kind]: [{ kind: 'day', days: 1, minute: 1080 }] },
              })
            }
            className="-ml-4 self-start"
          >
            {`Otherwise: ${ruleWords({ kind: 'day', days: 1, minute: 1080 }, hours)}`}
          </Button>
        </>
      )}
      <ProblemNotice problem={save.error && problemOf(save.error)} />
    </View>
  );
}
