import type { Group, LearnerRow } from '@zephyrfield/core/api/table';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { changeGroups } from '@/data/table';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';

interface Props {
  groups: readonly Group[];
  learners: readonly LearnerRow[];
  onClose(): void;
}

/** One’s own groups: a name, and who is in it. Nobody else sees them. */
export function Groups({ groups, learners, onClose }: Props) {
  const [list, setList] = useState<Group[]>(
    groups.length ? groups.map((g) => ({ ...g })) : [{ name: '', learnerIds: [] }],
  );
  const save = useMutation({
    mutationFn: () => changeGroups(list.filter((g) => g.name.trim() || g.learnerIds.length)),
    onSuccess: onClose,
  });
  const set = (at: number, to: Partial<Group>) =>
    setList(list.map((group, n) => (n === at ? { ...group, ...to } : group)));
  const nameless = list.some((g) => !g.name.trim() && g.learnerIds.length > 0);
  return (
    <View role="group" aria-label="Groups" className="gap-4 rounded-xl bg-sheet p-4">
      <Text kind="small">Your own groups. Nobody else sees them.</Text>
      {list.map((group, n) => (
        <View key={n} role="group" aria-label={group.name || 'A new group'} className="gap-2">
          <Field
            label="What the group is called"
            value={group.name}
            maxLength={60}
            error={!group.name.trim() && group.learnerIds.length ? 'Give it a name.' : undefined}
            onChange={(e) => set(n, { name: e.currentTarget.value })}
          />
          <Ticks
            label="Who is in it"
            all={learners.map((l) => [l.learnerId, l.name] as const)}
            chosen={group.learnerIds}
            onChange={(learnerIds) => set(n, { learnerIds: [...learnerIds] })}
          />
          <Button
            kind="quiet"
            className="-ml-4 self-start"
            onPress={() => setList(list.filter((_, other) => other !== n))}
          >
            Let go of this group
          </Button>
        </View>
      ))}
      <Button
        kind="second"
        className="self-start"
        onPress={() => setList([...list, { name: '', learnerIds: [] }])}
      >
        Add a group
      </Button>
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} disabled={nameless} onPress={() => save.mutate()}>
          Save
        </Button>
        <Button kind="second" onPress={onClose}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
