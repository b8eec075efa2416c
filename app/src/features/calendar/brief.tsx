import type { ItemView } from '@zephyrfield/core/api/schemas';
import type { Brief as BriefType } from '@zephyrfield/core/api/own';
import { briefPassages } from '@zephyrfield/core/item/brief';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { Button } from '@/ui/button';
import { Choice, LongField } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Passages } from '@/ui/passages';
import { Text } from '@/ui/text';

const PARTS: readonly (readonly [keyof BriefType, string, string])[] = [
  ['aim', 'Aim', 'What it is for, in a sentence'],
  ['steps', 'Steps', 'One a line, with - before each'],
  ['time', 'Expected time', 'How long it should take, and what to do when it takes longer'],
  ['help', 'Getting help', 'Where, when, with whom'],
  ['adjustments', 'Adjustments', 'What may be left out or done otherwise'],
  ['good', 'What good looks like', ''],
  ['ask', 'Who to ask', ''],
  ['questions', 'Common questions', ''],
];
const NOTHING: BriefType = { aim: '', steps: '', time: '', help: '', adjustments: '', good: '', ask: '', questions: '' };

/** The brief: what families ask, in the same order everywhere, empty parts left out. A date’s own stands over the shared one. */
export function Brief({ item, mayEdit }: { item: ItemView; mayEdit: boolean }) {
  const { shared, ofDate } = item.brief;
  const { itemId, key } = item.occurrence;
  const client = useQueryClient();
  const [editing, setEditing] = useState(false);
  const [forDate, setForDate] = useState(ofDate !== null);
  const [brief, setBrief] = useState<BriefType>(ofDate ?? shared ?? NOTHING);
  const save = useMutation({
    mutationFn: () => call('changeBrief', { params: { id: itemId }, body: { key: forDate ? key : '', brief: PARTS.some(([name]) => brief[name].trim()) ? brief : null } }),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['item', itemId] });
      setEditing(false);
    },
  });
  const shown = PARTS.map(([name, title]) => ({ name, title, text: (ofDate?.[name].trim() ? ofDate : (shared ?? NOTHING))[name] })).filter((p) => p.text.trim());
  if (!shown.length && !mayEdit) return null;
  if (editing) {
    return (
      <View role="group" aria-label="The brief" className="gap-3">
        <Text kind="lead" heading={3}>
          The brief
        </Text>
        <Text kind="small">Each part may stay empty. **bold**, - lists and [words](https://…) are understood.</Text>
        {key ? (
          <Choice label="It is for" value={forDate ? 'one' : 'all'} onChange={(e) => setForDate(e.currentTarget.value === 'one')} options={[{ value: 'all', words: 'all dates' }, { value: 'one', words: 'this date alone' }]} />
        ) : null}
        {PARTS.map(([name, title, hint]) => (
          <LongField key={name} label={title} hint={hint || undefined} rows={2} maxLength={4000} value={brief[name]} onChange={(e) => setBrief({ ...brief, [name]: e.currentTarget.value })} />
        ))}
        <ProblemNotice problem={save.error && problemOf(save.error)} />
        <View className="flex-row gap-2">
          <Button busy={save.isPending} onPress={() => save.mutate()}>
            Save the brief
          </Button>
          <Button kind="quiet" onPress={() => setEditing(false)}>
            Leave it
          </Button>
        </View>
      </View>
    ); // prettier-ignore
  }
  return (
    <View role="group" aria-label="The brief" className="gap-2">
      {shown.length ? (
        <Text kind="lead" heading={3}>
          The brief
        </Text>
      ) : null}
      {shown.map(({ name, title, text }) => (
        <View key={name} className="gap-1">
          <Text kind="label">{title}</Text>
          <Passages passages={briefPassages(text)} />
        </View>
      ))}
      {mayEdit ? (
        <Button kind="quiet" onPress={() => setEditing(true)} className="-ml-4 self-start">
          {shown.length ? 'Change the brief' : 'Write a brief'}
        </Button>
      ) : null}
    </View>
  );
}
