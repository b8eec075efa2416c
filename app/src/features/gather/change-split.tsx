import type { CalendarView, Preview, SourceView, SplitRequest } from '@zephyrfield/core/api/schemas';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { refreshLearner, useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { SplitChooser } from './split-chooser';

interface Props {
  source: SourceView;
  calendars: readonly CalendarView[];
  onDone(): void;
}

/** The split as it stands, to be changed. */
const standing = ({ split, sections }: SourceView, calendars: readonly CalendarView[]): SplitRequest | null =>
  split && {
    rule: split,
    sections: sections.map(({ section, calendarId }) => {
      const { name, colour, flag } = calendars.find((c) => c.id === calendarId)!;
      return { section, name, colour, flag };
    }),
  };

/** Makes several calendars of a source, merges or renames them, or makes one of it again. */
export function ChangeSplit({ source, calendars, onDone }: Props) {
  const client = useQueryClient();
  const learnerId = calendars[0]!.learnerId;
  const flying = useCalendars(learnerId).data ?? [];
  const found = useQuery<Preview['splits']>({
    queryKey: ['learner', learnerId, 'splits', source.id],
    queryFn: () => call('splits', { params: { id: source.id } }),
  });
  const [value, setValue] = useState(() => standing(source, calendars));
  const [errors, setErrors] = useState<(string | undefined)[]>([]);
  const save = useMutation({
    mutationFn: (split: SplitRequest | null) =>
      call('changeSplit', { params: { id: source.id }, body: { split } }),
    onSuccess: async () => {
      await refreshLearner(client, learnerId);
      onDone();
    },
  });
  const failure = save.error ?? found.error;
  const problem = failure && problemOf(failure);
  const choose = (next: SplitRequest | null) => {
    setValue(next);
    setErrors([]);
  };
  const submit = () => {
    const missing = value?.sections.map((p) => (p.name.trim() ? undefined : 'Give it a name.')) ?? [];
    setErrors(missing);
    if (!missing.some(Boolean)) save.mutate(value);
  };
  // What it is split by now is offered first, with the parts as they stand.
  const now = source.split
    ? [{ rule: source.split, sections: source.sections.map(({ section, count }) => ({ section, count })) }]
    : [];
  const others = (found.data ?? []).filter(
    (p) => !(p.rule.by === source.split?.by && p.rule.at === source.split.at),
  );
  return (
    <View className="gap-4 border-t border-line pt-3">
      {found.isPending ? <Text role="status">Looking for ways to split it …</Text> : null}
      {found.data && !now.length && !others.length ? (
        <Text>
          Nothing in it says which of several courses an entry belongs to, so it stays one calendar.
        </Text>
      ) : null}
      {found.data ? (
        <SplitChooser
          proposals={[...now, ...others]}
          flying={flying}
          value={value}
          without={calendars[0]!.name}
          errors={errors}
          onChange={choose}
        />
      ) : null}
      <ProblemNotice problem={problem} />
      <View className="flex-row flex-wrap gap-2">
        {found.data && (now.length || others.length) ? (
          <Button busy={save.isPending} onPress={submit}>
            Save
          </Button>
        ) : null}
        <Button kind="second" onPress={onDone}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
