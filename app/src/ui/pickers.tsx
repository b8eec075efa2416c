import {
  CalendarDate,
  CalendarDateTime,
  Time,
  parseDate,
  parseDateTime,
  parseTime,
  type DateValue,
} from '@internationalized/date';
import CalendarDays from 'lucide-react-native/icons/calendar-days';
import X from 'lucide-react-native/icons/x';
import { useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { Button } from 'react-aria-components/Button';
import { Calendar, CalendarCell, CalendarGrid } from 'react-aria-components/Calendar';
import { DateField as Dates, DateInput, DateSegment } from 'react-aria-components/DateField';
import { FieldError } from 'react-aria-components/FieldError';
import { Heading } from 'react-aria-components/Heading';
import { I18nProvider } from 'react-aria-components/I18nProvider';
import { Label } from 'react-aria-components/Label';
import { TimeField as Times } from 'react-aria-components/TimeField';
import { View } from 'react-native';
import type { PickerProps } from './picker-props';
import { FieldHabits } from './field-habits';
import { IconButton } from './button';
import { Text } from './text';

// Days and hours as fields, in the order and with the hours the person is used to: each part is typed or stepped by the
// arrows, a day can also be chosen from a month.

/** Whoever reads our "9 October" writes the day first. */
const LOCALE = 'en-GB';
const BOX =
  'flex min-h-[44px] flex-1 items-center rounded-lg border bg-sheet px-2 font-text text-body text-ink focus-within:ring-2 focus-within:ring-lagoon';
const SEGMENT = 'rounded px-0.5 py-1 outline-none focus:bg-lagoon-wash data-[placeholder]:text-ink2';

interface FrameProps extends Pick<PickerProps, 'label' | 'hint' | 'error' | 'value' | 'onChange'> {
  mayClear: boolean;
  children: ReactNode;
  aside?: ReactNode;
  below?: ReactNode;
}

function Framed({ label, hint, error, value, onChange, mayClear, children, aside, below }: FrameProps) {
  return (
    <>
      <Label className="font-text text-small font-bold text-ink">{label}</Label>
      <View className="flex-row items-center">
        {children}
        {mayClear && value ? (
          <IconButton icon={X} label={`Clear: ${label}`} onPress={() => onChange('')} />
        ) : null}
        {aside}
      </View>
      {hint && !error ? <Text kind="small">{hint}</Text> : null}
      {error ? (
        <View role="alert">
          <FieldError className="font-text text-small text-poppy">{error}</FieldError>
        </View>
      ) : null}
      {below}
    </>
  );
}

const safely = <T,>(read: () => T): T | null => {
  try {
    return read();
  } catch {
    return null;
  }
};
const input = (error: string | undefined) => (
  <DateInput className={`${BOX} ${error ? 'border-poppy' : 'border-ink2'}`}>
    {(segment) => <DateSegment segment={segment} className={SEGMENT} />}
  </DateInput>
);

/** A day; with `at` a moment on a wall clock, as `2026-10-09T16:00`. */
export function DayPicker({ at = false, min, max, onLeave, ...frame }: PickerProps & { at?: boolean }) {
  const { value, error, label, onChange } = frame;
  const { hours, firstDay, today } = useContext(FieldHabits);
  const [isOpen, setIsOpen] = useState(false);
  const day = safely<DateValue>(() => (at ? parseDateTime(value) : parseDate(value)));
  const put = (next: DateValue | null) => onChange(next ? next.toString().slice(0, at ? 16 : 10) : '');
  const chosen = (next: CalendarDate) => {
    const time = day instanceof CalendarDateTime ? new Time(day.hour, day.minute) : new Time(8);
    put(at ? new CalendarDateTime(next.year, next.month, next.day, time.hour, time.minute) : next);
    setIsOpen(false);
  };
  const month = day && new CalendarDate(day.year, day.month, day.day);
  return (
    <I18nProvider locale={LOCALE}>
      <Dates
        value={day}
        onChange={put}
        granularity={at ? 'minute' : 'day'}
        hourCycle={hours}
        hideTimeZone
        shouldForceLeadingZeros
        isInvalid={Boolean(error)}
        onBlur={onLeave}
        className="flex flex-col gap-1"
      >
        <Framed
          {...frame}
          mayClear={!frame.isRequired}
          aside={
            <IconButton
              icon={CalendarDays}
              label={`${isOpen ? 'Close the month' : 'Choose from a month'}: ${label}`}
              onPress={() => setIsOpen(!isOpen)}
            />
          }
          below={
            isOpen ? (
              <Month
                label={label}
                value={month}
                min={safely(() => parseDate(min ?? ''))}
                max={safely(() => parseDate(max ?? ''))}
                firstDay={firstDay}
                begin={safely(() => parseDate(min && today && min > today ? min : (today ?? '')))}
                onChange={chosen}
              />
            ) : null
          }
        >
          {input(error)}
        </Framed>
      </Dates>
    </I18nProvider>
  );
}

const FIRST = { 1: 'mon', 6: 'sat', 7: 'sun' } as const;

interface MonthProps {
  label: string;
  value: CalendarDate | null;
  min: CalendarDate | null;
  max: CalendarDate | null;
  firstDay: keyof typeof FIRST;
  /** What is in sight at first where nothing is chosen */
  begin: CalendarDate | null;
  onChange(day: CalendarDate): void;
}

function Month({ label, value, min, max, firstDay, begin, onChange }: MonthProps) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.scrollIntoView?.({ block: 'nearest' }), []);
  const arrow = 'min-h-[44px] min-w-[44px] rounded-lg text-lagoon hover:bg-lagoon-wash disabled:opacity-40';
  return (
    <Calendar
      ref={box}
      {...(begin ? { defaultFocusedValue: begin } : {})}
      aria-label={label}
      value={value}
      onChange={(day) => onChange(new CalendarDate(day.year, day.month, day.day))}
      firstDayOfWeek={FIRST[firstDay]}
      {...(min ? { minValue: min } : {})}
      {...(max ? { maxValue: max } : {})}
      autoFocus
      className="rounded-lg border border-line bg-paper p-2"
    >
      <View className="flex-row items-center justify-between">
        <Button slot="previous" className={arrow}>
          ←
        </Button>
        <Heading className="font-text text-body font-bold text-ink" />
        <Button slot="next" className={arrow}>
          →
        </Button>
      </View>
      <CalendarGrid className="w-full" weekdayStyle="short">
        {(day) => (
          <CalendarCell
            date={day}
            className="mx-auto flex h-[40px] w-[40px] cursor-pointer items-center justify-center rounded-lg font-text text-body text-ink outline-none hover:bg-lagoon-wash data-[selected]:bg-lagoon data-[outside-month]:text-ink2 data-[selected]:text-lagoon-on data-[disabled]:opacity-40 data-[focus-visible]:ring-2 data-[focus-visible]:ring-lagoon"
          />
        )}
      </CalendarGrid>
    </Calendar>
  );
}

/** An hour, as `16:00`. */
export function HourPicker({ onLeave, ...frame }: PickerProps) {
  const { value, error, onChange } = frame;
  const { hours } = useContext(FieldHabits);
  return (
    <I18nProvider locale={LOCALE}>
      <Times
        value={safely(() => parseTime(value))}
        onChange={(time) => onChange(time ? time.toString().slice(0, 5) : '')}
        hourCycle={hours}
        shouldForceLeadingZeros
        isInvalid={Boolean(error)}
        onBlur={onLeave}
        className="flex flex-col gap-1"
      >
        <Framed {...frame} mayClear={!frame.isRequired}>
          {input(error)}
        </Framed>
      </Times>
    </I18nProvider>
  );
}

/** A moment on the person's wall clock. */
export const MomentPicker = (props: PickerProps) => <DayPicker {...props} at />;
