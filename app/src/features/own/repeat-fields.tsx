import { timesOf, type OwnItem } from '@zephyrfield/core/item/own';
import { patternWords } from '@zephyrfield/core/recurrence/pattern';
import { DAY, civilDate } from '@zephyrfield/core/time/civil';
import { dayIn } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { shortDay, today, weekdayName, type Viewer } from '@zephyrfield/core/words/when';
import { Controller, useWatch, type Control } from 'react-hook-form';
import { Pressable, View } from 'react-native';
import { choiceBox, choiceWords } from '@/ui/choices';
import { Text } from '@/ui/text';
import { patternOf, type Fields } from './form';
import { DateField } from '@/ui/date-field';
import { FormChoice, FormField, FormPicker } from '@/ui/form-field';

const EVERY = {
  no: 'does not repeat',
  day: 'every day',
  week: 'every week',
  month: 'every month',
  year: 'every year',
} as const;
const UNITS = { day: 'days', week: 'weeks', month: 'months', year: 'years' } as const;
/** A Monday, to name weekdays by. */
const MONDAY = 19_723;

interface Props {
  control: Control<Fields>;
  /** The item as the fields have it, where they make one */
  item: OwnItem | null;
  viewer: Viewer;
  now: number;
}

/** How something repeats: what people ask for, said back in a sentence, with the dates it comes to. */
export function RepeatFields({ control, item, viewer, now }: Props) {
  const f = useWatch({ control }) as Fields;
  const pattern = patternOf(f);
  const thisYear = civilDate(today(now, viewer)).year;
  const zones = (name: string) => ianaZone(name) ?? UTC;
  const times =
    item?.when && item.repeat
      ? timesOf(item, {
          from: (dayIn(item.when, viewer) - 2) * DAY,
          to: (dayIn(item.when, viewer) + 800) * DAY,
          zone: viewer,
          zones,
          limit: 60,
        })
      : [];
  return (
    <View className="gap-3">
      <FormChoice
        control={control}
        name="repeats"
        label="Repeats"

        options={(Object.keys(EVERY) as (keyof typeof EVERY)[]).map((value) => ({
          value,
          words: f.otherRule && value === 'no' ? 'by its own rule' : EVERY[value],
        }))}
      />
      {f.repeats === 'no' ? null : (
        <>
          {f.repeats === 'week' ? (
            <Controller
              control={control}
              name="weekdays"
              render={({ field }) => (
                <View role="group" aria-label="On which days" className="flex-row flex-wrap">
                  {[1, 2, 3, 4, 5, 6, 7].map((d) => {
                    const on = (pattern?.weekdays ?? []).includes(d);
                    return (
                      <Pressable
                        key={d}
                        role="checkbox"
                        aria-checked={on}
                        aria-label={weekdayName(MONDAY + d - 1)}
                        onPress={() =>
                          field.onChange(
                            on ? pattern!.weekdays.filter((w) => w !== d) : [...pattern!.weekdays, d],
                          )
                        }
                        className={`min-w-touch items-center ${choiceBox(on)}`}
                      >
                        <Text className={choiceWords(on)}>{weekdayName(MONDAY + d - 1).slice(0, 2)}</Text>
                      </Pressable>
                    );
                  })}
                </View>
              )}
            />
          ) : null}
          {f.repeats === 'month' ? (
            <FormChoice
              control={control}
              name="monthBy"
              label="On"
              options={[
                { value: 'date', words: 'the same date' },
                { value: 'weekday', words: 'the same weekday of the month' },
              ]}
            />
          ) : null}
          <View className="flex-row gap-3">
            <View className="flex-1">
              <FormField
                control={control}
                name="interval"
                label={`Every so many ${UNITS[f.repeats as keyof typeof UNITS]}`}
                type="number"
                min={1}
                max={60}
              />
            </View>
            <View className="flex-1">
              <FormChoice
                control={control}
                name="ends"
                label="Ends"
                options={[
                  { value: 'never', words: 'never' },
                  { value: 'on', words: 'on a date' },
                  { value: 'after', words: 'after a number of times' },
                ]}
              />
            </View>
          </View>
          {f.ends === 'on' ? (
            <FormPicker as={DateField} control={control} name="endsOn" label="Last day" />
          ) : null}
          {f.ends === 'after' ? (
            <FormField
              control={control}
              name="count"
              label="How many times"
              type="number"
              min={1}
              max={400}
            />
          ) : null}
          <Controller
            control={control}
            name="skipDaysOff"
            render={({ field }) => (
              <Pressable
                role="checkbox"
                aria-checked={field.value}
                onPress={() => field.onChange(!field.value)}
                className="min-h-touch flex-row items-center gap-2"
              >
                <View
                  className={`h-5 w-5 items-center justify-center rounded border-2 ${field.value ? 'border-lagoon bg-lagoon' : 'border-ink2'}`}
                >
                  {field.value ? <View className="h-2 w-2 rounded-sm bg-sheet" /> : null}
                </View>
                <Text>Not in breaks and on days off</Text>
              </Pressable>
            )}
          />
          {pattern && item?.when ? (
            <View role="status" aria-label="What repeats" className="gap-1 rounded-lg bg-lagoon-wash p-3">
              <Text kind="strong">
                {patternWords(pattern, item.when, viewer, thisYear)}
                {f.skipDaysOff ? ', not on days off' : ''}
              </Text>
              <Text kind="small">
                {times.length
                  ? `${times
                      .slice(0, 5)
                      .map((w) => shortDay(dayIn(w, viewer)))
                      .join(', ')}${times.length > 5 ? ' …' : ''}`
                  : 'It has no dates.'}
              </Text>
            </View>
          ) : null}
        </>
      )}
    </View>
  );
}
