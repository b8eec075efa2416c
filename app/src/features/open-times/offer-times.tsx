import { NewOpenTimes } from '@zephyrfield/core/api/open-times';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { formatDate, parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { clockOf, minuteOfClock } from '@zephyrfield/core/time/minute';
import { slotsOf } from '@zephyrfield/core/time/slots';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { plural } from '@zephyrfield/core/words/text';
import { today } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useNow } from '@/data/now';
import { offerTimes } from '@/data/open-times';
import { useSchool } from '@/data/school';
import { Button } from '@/ui/button';
import { DateField, TimeField } from '@/ui/date-field';
import { Choice, Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { NeedsConnection } from '@/ui/needs-connection';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';

interface Props {
  own: Learner;
  learners: readonly Learner[];
  onClose(): void;
}

const WEEKDAYS = [
  ['1', 'Monday'],
  ['2', 'Tuesday'],
  ['3', 'Wednesday'],
  ['4', 'Thursday'],
  ['5', 'Friday'],
  ['6', 'Saturday'],
  ['7', 'Sunday'],
] as const;
const UNTIL = [
  ['0', 'until it begins'],
  ['60', 'until an hour before'],
  ['720', 'until half a day before'],
  ['1440', 'until a day before'],
  ['2880', 'until two days before'],
] as const;
const numbers = (from: number, to: number, step: number) =>
  Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => String(from + i * step));
const options = (values: readonly string[], unit: string) =>
  values.map((value) => ({ value, words: unit ? plural(Number(value), unit) : value }));

/** Times to be offered: when, how long, for whom, and how many of them each can take. */
export function OfferTimes({ own, learners, onClose }: Props) {
  const now = useNow();
  const zone = ianaZone(own.zone) ?? UTC;
  const day = today(now, zone);
  const [title, setTitle] = useState('A talk');
  const [place, setPlace] = useState('');
  const [details, setDetails] = useState('');
  const [days, setDays] = useState({
    firstDay: formatDate(day + 1),
    lastDay: formatDate(startOfWeek(day, 1) + 27),
  });
  const [weekdays, setWeekdays] = useState<readonly string[]>(['4']);
  const [hours, setHours] = useState({ from: '15:30', to: '17:00' });
  const [each, setEach] = useState({ length: '15', pause: '0', places: '1', each: '1', until: '1440' });
  const [names, setNames] = useState<readonly string[]>([]);
  const [whom, setWhom] = useState<readonly string[]>([]);
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const [key] = useState(newKey);
  const school = useSchool(own, day - 7, day + 200);
  const [from, to] = [minuteOfClock(hours.from) ?? 0, minuteOfClock(hours.to) ?? 0];
  const pattern = {
    weekdays: weekdays.map(Number),
    ...{ from, to, length: Number(each.length), pause: Number(each.pause) },
  };
  const [firstDay, lastDay] = [parseDate(days.firstDay), parseDate(days.lastDay)];
  const count = Number.isNaN(firstDay + lastDay)
    ? 0
    : slotsOf({ ...pattern, firstDay, lastDay }, { zone, daysOff: school.daysOff, taken: [] }).length;
  const offer = useMutation({
    mutationFn: (body: Parameters<typeof offerTimes>[0]) => offerTimes(body),
    onSuccess: onClose,
  });
  const send = () => {
    const body = {
      ...{ title, place, details, ...days, ...pattern, key },
      ...{ places: Number(each.places), each: Number(each.each), until: Number(each.until) },
      namesShown: names.includes('names'),
      learnerIds: [...whom],
      daysOff: school.daysOff
        .filter((d) => d.to >= firstDay && d.from <= lastDay)
        .slice(0, 100)
        .map((d) => ({ from: formatDate(d.from), to: formatDate(d.to) })),
    };
    const { success, error } = NewOpenTimes.safeParse(body);
    setWrong(Object.fromEntries(error?.issues.map((i) => [String(i.path[0]), i.message]) ?? []));
    if (success) offer.mutate(body);
  };
  const choice = (name: keyof typeof each, label: string, list: { value: string; words: string }[]) => (
    <View className="min-w-[130px] flex-1">
      <Choice
        label={label}
        value={each[name]}
        options={list}
        onChange={(e) => setEach({ ...each, [name]: e.currentTarget.value })}
      />
    </View>
  );
  return (
    <View role="group" aria-label="Offer times" className="gap-4 rounded-xl bg-sheet p-4">
      <NeedsConnection />
      <Field
        label="What for"
        value={title}
        maxLength={120}
        error={wrong['title']}
        onChange={(e) => setTitle(e.currentTarget.value)}
      />
      <Field
        label="Where, or the link of a meeting"
        value={place}
        maxLength={300}
        onChange={(e) => setPlace(e.currentTarget.value)}
      />
      <Field
        label="What to know or bring"
        value={details}
        maxLength={2_000}
        onChange={(e) => setDetails(e.currentTarget.value)}
      />
      <View className="gap-3 wide:flex-row">
        <View className="flex-1">
          <DateField
            label="First day"
            value={days.firstDay}
            error={wrong['firstDay']}
            onChange={(value) => setDays({ ...days, firstDay: value })}
          />
        </View>
        <View className="flex-1">
          <DateField
            label="Last day"
            value={days.lastDay}
            error={wrong['lastDay']}
            onChange={(value) => setDays({ ...days, lastDay: value })}
          />
        </View>
      </View>
      <Ticks label="On" all={WEEKDAYS} chosen={weekdays} error={wrong['weekdays']} onChange={setWeekdays} />
      <View className="flex-row gap-3">
        <View className="flex-1">
          <TimeField
            label="From"
            value={hours.from}
            onChange={(value) => setHours({ ...hours, from: value })}
          />
        </View>
        <View className="flex-1">
          <TimeField
            label="To"
            value={hours.to}
            error={wrong['to']}
            onChange={(value) => setHours({ ...hours, to: value })}
          />
        </View>
      </View>
      <View className="flex-row flex-wrap gap-3">
        {choice('length', 'Each lasts', options(numbers(5, 120, 5), 'minute'))}
        {choice('pause', 'Pause between', options(numbers(0, 60, 5), 'minute'))}
        {choice('places', 'Places in each', options(numbers(1, 30, 1), ''))}
        {choice('each', 'Each learner takes at most', options(numbers(1, 10, 1), ''))}
      </View>
      <Choice
        label="It can be taken or given back"
        value={each.until}
        options={UNTIL.map(([value, words]) => ({ value, words }))}
        onChange={(e) => setEach({ ...each, until: e.currentTarget.value })}
      />
      {Number(each.places) > 1 ? (
        <Ticks
          label="Names"
          all={[['names', 'others see who has taken a place']]}
          chosen={names}
          onChange={setNames}
        />
      ) : null}
      <Ticks
        label="For whom"
        all={learners.map((l) => [l.id, l.name] as const)}
        chosen={whom}
        error={wrong['learnerIds']}
        onChange={setWhom}
      />
      <Text kind="small">
        {`${plural(count, 'time')} from ${clockOf(from)} on, without days off and what is in your own schedule then.`}
      </Text>
      <ProblemNotice problem={offer.error && problemOf(offer.error)} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={offer.isPending} disabled={!count} onPress={send}>
          {`Offer ${plural(count, 'time')}`}
        </Button>
        <Button kind="second" onPress={onClose}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
