import { NoticeSettings } from '@zephyrfield/core/api/notify';
import { type SheetEdition } from '@zephyrfield/core/notify/settings';
import { clockOf, minuteOfClock } from '@zephyrfield/core/time/minute';
import { minuteWords } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { useSettings } from '@/data/learner';
import { changeNoticeSettings } from '@/data/notices';
import { Button } from '@/ui/button';

import { Text } from '@/ui/text';
import { Box } from '@/ui/box';
import { Part } from './part';
import { SavedPicker, TimeField } from '@/ui/date-field';

const SHEET_WORDS: Record<SheetEdition, string> = {
  morning: 'Each morning',
  evening: 'Each evening',
  week: 'On Sundays, the week',
};
const USUAL: Record<SheetEdition, number> = { morning: 7 * 60, evening: 17 * 60, week: 17 * 60 };

/** When nothing is sent. */
export function QuietHours({ noticeSettings }: { noticeSettings: NoticeSettings }) {
  const { hours } = useSettings();
  const { quiet } = noticeSettings;
  const [wrong, setWrong] = useState('');
  const put = (next: NoticeSettings['quiet']) => {
    const result = NoticeSettings.shape.quiet.safeParse(next);
    setWrong(result.success ? '' : (result.error.issues[0]?.message ?? 'That is not right.'));
    if (result.success) void changeNoticeSettings({ ...noticeSettings, quiet: next });
  };
  const edge = (name: 'from' | 'to', text: string) => {
    const minute = minuteOfClock(text);
    if (minute !== null && quiet) put({ ...quiet, [name]: minute });
  };
  return (
    <Part title="Quiet hours">
      {quiet ? (
        <>
          <View className="flex-row gap-3">
            <View className="flex-1">
              <SavedPicker
                as={TimeField}
                label="From"
                value={clockOf(quiet.from)}
                onSave={(text) => edge('from', text)}
                isRequired
              />
            </View>
            <View className="flex-1">
              <SavedPicker
                as={TimeField}
                label="To"
                value={clockOf(quiet.to)}
                error={wrong || undefined}
                onSave={(text) => edge('to', text)}
                isRequired
              />
            </View>
          </View>
          <Text kind="small">{`From ${minuteWords(quiet.from, hours)} to ${minuteWords(quiet.to, hours)} nothing is sent. What comes meanwhile is sent together afterwards; what would be of no use by then stands in News alone.`}</Text>
        </>
      ) : (
        <Text className="text-ink2">Notices come at any hour.</Text>
      )}
      <Button
        kind="quiet"
        onPress={() => put(quiet ? null : { from: 22 * 60, to: 7 * 60 })}
        className="-ml-4 self-start"
      >
        {quiet ? 'Turn quiet hours off' : 'Set quiet hours'}
      </Button>
    </Part>
  );
}

/** When the sheets come. */
export function Sheets({ noticeSettings }: { noticeSettings: NoticeSettings }) {
  return (
    <Part title="Day and week sheets">
      {(Object.keys(SHEET_WORDS) as SheetEdition[]).map((edition) => {
        const minute = noticeSettings.sheets[edition];
        const put = (next: number | null) =>
          void changeNoticeSettings({
            ...noticeSettings,
            sheets: { ...noticeSettings.sheets, [edition]: next },
          });
        return (
          <View key={edition} className="flex-row items-center gap-3">
            <Pressable
              role="checkbox"
              aria-checked={minute !== null}
              onPress={() => put(minute === null ? USUAL[edition] : null)}
              className="min-h-touch flex-1 flex-row items-center gap-3"
            >
              <Box on={minute !== null} />
              <Text>{SHEET_WORDS[edition]}</Text>
            </Pressable>
            {minute === null ? null : (
              <View className="w-[150px]">
                <SavedPicker
                  as={TimeField}
                  label={`${SHEET_WORDS[edition]} at`}
                  value={clockOf(minute)}
                  onSave={(text) => minuteOfClock(text) !== null && put(minuteOfClock(text))}
                  isRequired
                />
              </View>
            )}
          </View>
        );
      })}
    </Part>
  );
}
