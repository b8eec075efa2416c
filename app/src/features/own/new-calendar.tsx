import { NewOwnCalendar, type CalendarView } from '@zephyrfield/core/api/schemas';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import { CALENDAR_KINDS, type CalendarKind } from '@zephyrfield/core/item/kind';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useUndo } from '@/data/undo';
import { refreshLearner } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choice, Field } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';

const WORDS: Record<CalendarKind, string> = {
  course: 'a course',
  group: 'a group or club',
  school: 'the whole school',
  home: 'home and family',
  own: 'something else',
};

/**
 * A calendar of one's own, for what no link carries: a name is enough, the rest is suggested and can be
 * changed in Gather.
 */
export function NewCalendar({
  learnerId,
  zone,
  flying,
  onMade,
}: {
  learnerId: string;
  zone: string;
  flying: readonly CalendarView[];
  onMade(id: string): void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [kind, setKind] = useState<CalendarKind>('home');
  const [wrong, setWrong] = useState('');
  const [error, setError] = useState<unknown>(null);
  const [key] = useState(newKey);
  const suggestion = suggestFlag(name || 'My own', flying);
  const make = async () => {
    const body = NewOwnCalendar.safeParse({ name, kind, zone, key, ...suggestion });
    setWrong(body.error?.issues[0]?.message ?? '');
    if (!body.data) return;
    try {
      const { id } = await call('addCalendar', { params: { learnerId }, body: body.data });
      await refreshLearner(client, learnerId);
      useUndo.getState().did({
        words: `${body.data.name} begun`,
        undo: () =>
          call('forgetCalendar', { params: { id } }).then(() =>
            refreshLearner(client, learnerId).then(() => {}),
          ),
      });
      onMade(id);
    } catch (caught) {
      setError(caught);
    }
  };
  return (
    <View role="group" aria-label="New calendar" className="gap-3 rounded-lg border border-line p-3">
      <View className="flex-row items-center gap-2">
        <Flag colour={suggestion.colour} flag={suggestion.flag} size={22} />
        <Text kind="small">will be its flag</Text>
      </View>
      <Field
        label="Name"
        value={name}
        error={wrong || undefined}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <Choice
        label="What it is for"
        options={CALENDAR_KINDS.map((value) => ({ value, words: WORDS[value] }))}
        value={kind}
        onChange={(e) => setKind(e.currentTarget.value as CalendarKind)}
      />
      <ProblemNotice problem={error ? problemOf(error) : null} />
      <Button kind="second" onPress={() => void make()} className="self-start">
        Make it
      </Button>
    </View>
  );
}
