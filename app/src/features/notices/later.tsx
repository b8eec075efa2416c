import { instantOf } from '@zephyrfield/core/time/when';
import { shortDue, type Viewer } from '@zephyrfield/core/words/when';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { snoozeTimes } from '@zephyrfield/core/notify/settings';
import { useState } from 'react';
import { View } from 'react-native';
import { changeNoticeSettings, snooze, useNoticeSettings } from '@/data/notices';
import { Button } from '@/ui/button';
import { MomentField } from '@/ui/date-field';
import { Choice } from '@/ui/field';

/** Asks when to be told again, or never again of this. */
export function Later({
  notice,
  calendar,
  now,
  viewer,
  onDone,
}: {
  notice: NoticeView;
  calendar: CalendarView | undefined;
  now: number;
  viewer: Viewer;
  onDone(): void;
}) {
  const noticeSettings = useNoticeSettings().data?.noticeSettings;
  const [moment, setMoment] = useState('');
  const times = snoozeTimes(now, viewer);
  const put = (until: number, words: string) => {
    void snooze(notice, until, words);
    onDone();
  };
  const mute = (what: 'items' | 'calendars', id: string, words: string) => {
    if (noticeSettings)
      void changeNoticeSettings(
        {
          ...noticeSettings,
          muted: {
            ...noticeSettings.muted,
            [what]: [...noticeSettings.muted[what].filter((m) => m !== id), id],
          },
        },
        words,
      );
    onDone();
  };
  const at = Date.parse(`${moment}:00Z`);
  return (
    <View
      role="group"
      aria-label={`Remind me later of ${notice.title}`}
      className="gap-2 border-t border-line pb-3 pt-1"
    >
      <View className="-ml-4 flex-row flex-wrap">
        <Button kind="quiet" onPress={() => put(times.hour, 'in an hour')}>
          In an hour
        </Button>
        {times.evening ? (
          <Button kind="quiet" onPress={() => put(times.evening!, 'this evening')}>
            This evening
          </Button>
        ) : null}
        <Button kind="quiet" onPress={() => put(times.tomorrow, 'tomorrow morning')}>
          Tomorrow morning
        </Button>
      </View>
      <View className="flex-row items-end gap-2">
        <View className="min-w-0 flex-1">
          <MomentField label="Or at" value={moment} onChange={setMoment} />
        </View>
        <Button
          kind="second"
          disabled={!moment || Number.isNaN(at)}
          onPress={() => {
            const until = viewer.toInstant(at);
            put(until, shortDue(instantOf(until), viewer));
          }}
        >
          Then
        </Button>
      </View>
      {notice.itemId || calendar ? (
        <Choice
          label="Mute"
          value=""
          onChange={(e) => {
            const { value } = e.currentTarget;
            if (value === 'item' && notice.itemId) mute('items', notice.itemId, `${notice.title}: muted`);
            if (value === 'calendar' && calendar) mute('calendars', calendar.id, `${calendar.name}: muted`);
          }}
          options={[
            { value: '', words: 'choose …' },
            ...(notice.itemId ? [{ value: 'item', words: 'this item' }] : []),
            ...(calendar ? [{ value: 'calendar', words: `all of ${calendar.name}` }] : []),
          ]}
        />
      ) : null}
    </View>
  );
}
