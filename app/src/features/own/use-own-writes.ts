import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Brief } from '@zephyrfield/core/api/own';
import { isWork } from '@zephyrfield/core/item/kind';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { useRef, useState } from 'react';
import { Refusal, call } from '@/data/client';
import { useDraft, type Draft } from '@/data/draft';
import { newKey } from '@/data/key';
import { changeLayer } from '@/data/layer';
import { asItStands, isChangedMeanwhile, removalsFor, writeOwn, writesFor, type Scope } from '@/data/own';
import type { OwnAt } from '@/data/own-at';
import { router } from '@/router';
import type { Fields } from './form';

interface Writing {
  learnerId: string;
  fields: Fields;
  calendar: CalendarView | undefined;
  /** Puts what the server found wrong at its field */
  mark(field: keyof Fields, message: string): void;
  /** Told where somebody else has written it meanwhile; `isGone` where they have taken it away */
  onMeanwhile(theirs: OwnAt, isGone: boolean): void;
}

const FIELD_OF: readonly (readonly [string, keyof Fields])[] = [
  ['repeat', 'repeats'],
  ['calendarId', 'calendarId'],
];

/** Saving and deleting what the form says; where the server refuses, its words stand at their fields. */
export function useOwnWrites({ learnerId, fields, calendar, mark, onMeanwhile }: Writing) {
  const { done } = useDraft();
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const write = async (editing: OwnAt | null, work: () => Promise<unknown>) => {
    setBusy(true);
    setError(null);
    try {
      await work();
      done(learnerId, { purpose: fields.purpose, calendarId: fields.calendarId });
    } catch (refused) {
      let caught: unknown = refused;
      if (editing && isChangedMeanwhile(refused))
        try {
          const { at, isGone } = await asItStands(editing);
          onMeanwhile(at, isGone);
          return setBusy(false);
        } catch (unreached) {
          caught = unreached;
        }
      setError(caught);
      if (caught instanceof Refusal)
        for (const { path, message } of caught.problem.fields ?? [])
          mark(FIELD_OF.find(([name]) => path.includes(name))?.[1] ?? 'title', message);
      setBusy(false);
    }
  };
  const { calendarId, minutes, skipDaysOff } = fields;
  // Pressed again after an answer was lost on the way, it is still the same one.
  const key = useRef(newKey());

  /** A new item, with a brief to begin from and an estimate where they are given. */
  async function add(item: OwnItem, brief: Brief | undefined): Promise<void> {
    const words = `${item.title} added to ${calendar?.name ?? ''}`;
    const write = { id: null, key: key.current, calendarId, item, version: 0 };
    const [written] = await writeOwn(learnerId, [write], words);
    key.current = newKey();
    if (!written) return;
    const { id } = written;
    if (brief) await call('changeBrief', { params: { id }, body: { recurrenceId: '', brief } });
    const estimate = Math.round(Number(minutes));
    if (!(estimate > 0) || !isWork(item.kind) || item.repeat) return;
    const { occurrence } = await call('item', { params: { id }, query: { recurrenceId: '' } });
    await changeLayer(learnerId, occurrence, { estimate });
  }

  function change(editing: NonNullable<Draft['editing']>, item: OwnItem, scope: Scope): Promise<unknown> {
    const was = editing.item;
    const same = was.repeat && item.repeat?.rule === was.repeat.rule && !skipDaysOff;
    const next = { ...item, changes: was.changes, repeat: same ? was.repeat : item.repeat };
    const writes = writesFor(editing, next, calendarId, was.repeat ? scope : 'all');
    return writeOwn(learnerId, writes, `${item.title} changed`);
  }

  return {
    error,
    busy,
    save: (editing: Draft['editing'], item: OwnItem, scope: Scope, brief: Brief | undefined) =>
      void write(editing, () => (editing ? change(editing, item, scope) : add(item, brief))),
    remove: (editing: NonNullable<Draft['editing']>, scope: Scope) =>
      void write(editing, async () => {
        const writes = removalsFor(editing, editing.item.repeat ? scope : 'all');
        await writeOwn(learnerId, writes, `${fields.title} deleted`);
        // Its sheet may be open below.
        router.setParams({ item: undefined, recurrence: undefined });
      }),
  };
}
