import { moreWords, sheetHidden } from '@zephyrfield/core/notify/day-sheet';
import { itemPath } from '@zephyrfield/core/notify/links';
import type { LearnerSheet } from '@zephyrfield/core/api/notify';
import { SHEET_EDITIONS, type SheetEdition } from '@zephyrfield/core/notify/settings';
import { formatDate, parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { minuteOfDay, today as dayOf } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { NOT_COPIED, copyText } from '@/data/copy';
import { Link, router, useLocalSearchParams } from '@/router';
import Copy from 'lucide-react-native/icons/copy';
import Printer from 'lucide-react-native/icons/printer';
import { ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { useUndo } from '@/data/undo';
import { useLearner } from '@/data/learner';
import { useDaySheets } from '@/data/notices';
import { useNow } from '@/data/now';
import { useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';

const PARTS: readonly (readonly [SheetEdition, string])[] = [
  ['morning', 'morning'],
  ['evening', 'evening'],
  ['week', 'week'],
];

/** A day sheet, or a week sheet: the same as by mail, to be read, printed or copied. */
export function DaySheetPlace() {
  const { viewer, learner } = useLearner()!;
  const now = useNow();
  const params = useLocalSearchParams<{ edition?: string; day?: string }>();
  const today = dayOf(now, viewer);
  const edition: SheetEdition =
    SHEET_EDITIONS.find((p) => p === params.edition) ??
    (minuteOfDay(now, viewer) < 12 * 60 ? 'morning' : 'evening');
  const given = parseDate(params.day ?? '');
  const day = Number.isNaN(given) ? today : given;
  const sheets = useDaySheets(edition, formatDate(day));
  const copy = async () => {
    const isCopied = await copyText((sheets.data ?? []).map((b) => b.text).join('\n'));
    useUndo.getState().say(isCopied ? 'Copied.' : NOT_COPIED);
  };
  const go = (next: SheetEdition) => {
    // A week sheet is the one of the Sunday before it.
    const of = next === 'week' ? startOfWeek(today, 1) - 1 : edition === 'week' ? today : day;
    router.setParams({ edition: next, day: formatDate(of) });
  };
  // One's own learner first, the others as they come.
  const all = [...(sheets.data ?? [])].sort(
    (a, b) => Number(b.learnerId === learner.id) - Number(a.learnerId === learner.id),
  );
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-4 px-4 pb-10 pt-3"
    >
      <PlaceHead title={edition === 'week' ? 'The week sheet' : 'The day sheet'}>
        <View className="unprinted flex-row gap-2">
          <Button kind="second" icon={Copy} onPress={() => void copy()}>
            Copy
          </Button>
          <Button kind="second" icon={Printer} onPress={() => window.print()}>
            Print
          </Button>
        </View>
      </PlaceHead>
      <View className="unprinted">
        <Choices<SheetEdition> label="Which sheet" all={PARTS} value={edition} onChange={go} />
      </View>
      <ProblemNotice problem={sheets.error && problemOf(sheets.error)} />
      {sheets.isPending ? (
        <View role="status" aria-label="Loading the sheet" className="h-24 rounded-xl bg-sheet" />
      ) : null}
      {all.map((sheet) => (
        <One key={sheet.learnerId} of={sheet} named={all.length > 1} />
      ))}
    </ScrollView>
  );
}

function One({ of: { learnerId, name, sheet }, named }: { of: LearnerSheet; named: boolean }) {
  const calendars = useCalendars(learnerId).data ?? [];
  return (
    <View role="group" aria-label={`${name}: ${sheet.title}`} className="gap-3">
      <Text kind="title" heading={2}>
        {named ? `${firstName(name)}: ` : ''}
        {sheet.title}
      </Text>
      {sheet.nothing ? <Text kind="strong">{sheet.nothing}</Text> : null}
      {sheet.sections.map(({ heading, lines, more }) => (
        <View key={heading} className="gap-1">
          <Text kind="label" heading={3} className={heading === 'Past due' ? 'text-poppy' : ''}>
            {heading}
          </Text>
          {lines.map((line, i) => {
            const calendar = calendars.find((c) => c.id === line.calendarId);
            return (
              <View
                key={`${line.itemId} ${line.recurrenceId} ${i}`}
                className="min-h-[32px] flex-row items-center gap-2"
              >
                {calendar ? (
                  <Flag colour={calendar.colour} flag={calendar.flag} size={14} />
                ) : (
                  <View className="w-[14px]" />
                )}
                <Text className="min-w-0 flex-1">
                  {line.when ? <Text className="font-bold">{line.when} </Text> : null}
                  <Link
                    href={itemPath(line.itemId, line.recurrenceId, learnerId)}
                    className="font-text text-body text-ink underline"
                  >
                    {line.title}
                  </Link>
                  {line.more ? <Text kind="small">{` ${line.more}`}</Text> : null}
                </Text>
              </View>
            );
          })}
          {more ? (
            <Link
              href="/todo"
              className="min-h-[32px] content-center pl-[22px] font-text text-small font-bold text-lagoon underline"
            >
              {moreWords(more)}
            </Link>
          ) : null}
        </View>
      ))}
      {sheet.hidden ? (
        <Text kind="small" className="py-1 font-bold text-marigold">
          {sheetHidden(sheet.hidden)}{' '}
          <Link
            href="/hidden"
            className="unprinted px-2 py-2 font-text text-small font-bold text-lagoon underline"
          >
            show
          </Link>
        </Text>
      ) : null}
    </View>
  );
}
