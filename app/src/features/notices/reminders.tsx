import { suffices } from '@zephyrfield/core/item/access';
import type { RemindRule, NoticeSettings } from '@zephyrfield/core/api/notify';
import {
  DEFAULT_REMINDERS,
  REMIND_KIND_WORDS,
  REMIND_KINDS,
  ruleWords,
  type RemindKind,
  type RemindSet,
} from '@zephyrfield/core/notify/rules';
import { versionOf } from '@zephyrfield/core/lib/version';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { call } from '@/data/client';
import { useUndo } from '@/data/undo';
import { useLearner, useSettings } from '@/data/learner';
import { changeNoticeSettings } from '@/data/notices';
import { keys, refresh, useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { ReminderRules } from '@/ui/reminder-rules';
import { Text } from '@/ui/text';
import { Part } from './part';

/** When to be reminded of what: for the whole schedule; a calendar or an item may have it otherwise. */
export function Reminders() {
  const { learner } = useLearner()!;
  const { hours } = useSettings();
  const [kind, setKind] = useState<RemindKind | null>(null);
  const own = learner.reminders;
  const rulesOf = (k: RemindKind): RemindRule[] => own?.[k] ?? [...DEFAULT_REMINDERS[k]];
  const save = async (reminders: Partial<RemindSet> | null, words: string) => {
    // Somebody else may change them meanwhile: then it is refused, and theirs is shown.
    const put = async (reminders: Partial<RemindSet> | null, madeOn: Partial<RemindSet> | null) => {
      try {
        await call('changeReminders', {
          params: { learnerId: learner.id },
          body: { reminders, version: versionOf(madeOn) },
        });
      } finally {
        await Promise.all([refresh(keys.session), refresh(['item'])]);
      }
    };
    try {
      await put(reminders, own);
      useUndo.getState().did({ words, undo: () => put(own, reminders) });
    } catch (error) {
      useUndo.getState().failed(error);
    }
  };
  return (
    <Part title={`Reminders for ${firstName(learner.name)}`}>
      <Text kind="small">
        Reminders move with the date and stop when the work is finished. A calendar (in Gather) or a single
        item can have its own.
      </Text>
      {REMIND_KINDS.map((k) => (
        <View key={k} className="rounded-xl bg-sheet px-3 py-1 shadow-sm">
          <Pressable
            role="button"
            aria-expanded={kind === k}
            disabled={!suffices(learner.access, 'edit')}
            onPress={() => setKind(kind === k ? null : k)}
            className="min-h-touch justify-center"
          >
            <Text kind="strong">{REMIND_KIND_WORDS[k]}</Text>
            <Text kind="small">
              {rulesOf(k)
                .map((r) => ruleWords(r, hours))
                .join(', ') || 'no reminder'}
            </Text>
          </Pressable>
          {kind === k ? (
            <ReminderRules
              label={`Reminders: ${REMIND_KIND_WORDS[k]}`}
              rules={rulesOf(k)}
              hours={hours}
              onChange={(rules) =>
                void save({ ...own, [k]: rules }, `${REMIND_KIND_WORDS[k]}: reminders changed`)
              }
            />
          ) : null}
        </View>
      ))}
      {own ? (
        <Button
          kind="quiet"
          onPress={() => void save(null, 'Reminders back to the usual')}
          className="-ml-4 self-start"
        >
          Back to the usual
        </Button>
      ) : null}
    </Part>
  );
}

/** What the person does not want to hear of any more. */
export function Muted({ noticeSettings }: { noticeSettings: NoticeSettings }) {
  const { learner } = useLearner()!;
  const calendars = useCalendars(learner.id).data ?? [];
  const { items, calendars: muted } = noticeSettings.muted;
  if (!items.length && !muted.length) return null;
  return (
    <Part title="Muted">
      {muted.map((id) => (
        <View key={id} className="flex-row items-center gap-2">
          <Text className="flex-1">
            All of {calendars.find((c) => c.id === id)?.name ?? 'another calendar'}
          </Text>
          <Button
            kind="quiet"
            onPress={() =>
              void changeNoticeSettings(
                { ...noticeSettings, muted: { items, calendars: muted.filter((m) => m !== id) } },
                'Unmuted',
              )
            }
          >
            Unmute
          </Button>
        </View>
      ))}
      {items.length ? (
        <View className="flex-row items-center gap-2">
          <Text className="flex-1">{plural(items.length, 'single item')}</Text>
          <Button
            kind="quiet"
            onPress={() =>
              void changeNoticeSettings(
                { ...noticeSettings, muted: { items: [], calendars: muted } },
                'Unmuted',
              )
            }
          >
            Unmute all
          </Button>
        </View>
      ) : null}
    </Part>
  );
}
