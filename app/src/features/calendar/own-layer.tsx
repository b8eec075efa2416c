import type { ItemView } from '@zephyrfield/core/api/schemas';
import { COLOURS } from '@zephyrfield/core/item/flag';
import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { dayIn } from '@zephyrfield/core/time/when';
import { dueDay, hoursWords, longDay, type Viewer } from '@zephyrfield/core/words/when';
import Timer from 'lucide-react-native/icons/timer';
import { useState } from 'react';
import { View } from 'react-native';
import { changeLayer, type LayerEdit } from '@/data/layer';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { SavedField } from '@/ui/saved-field';
import { Text } from '@/ui/text';
import { OwnNote } from './own-note';
import { DateField, SavedPicker } from '@/ui/date-field';

interface Props {
  item: ItemView;
  learnerId: string;
  viewer: Viewer;
  now: number;
  isWork: boolean;
  /** Who may tick off says how long it took */
  mayTick: boolean;
  /** Who may edit sets by when it is to be finished, and how long it takes */
  mayEdit: boolean;
}

/**
 * What people add to an item, whoever’s it is: together by when to be finished and how long, each for
 * themselves a note, a colour, and whether it is hidden. It stays when the feed changes.
 */
export function OwnLayer({ item, learnerId, viewer, now, isWork, mayTick, mayEdit }: Props) {
  const { occurrence, spent, timerSince } = item;
  const [wrong, setWrong] = useState<{ aim?: string; estimate?: string }>({});
  const put = async (change: LayerEdit, words: string, back?: LayerEdit) =>
    (await changeLayer(learnerId, occurrence, change, { words: `${occurrence.title}: ${words}`, back })) !==
    null;
  const aim = occurrence.aim && dayIn(occurrence.aim, viewer);
  const setAim = (text: string) => {
    const day = parseDate(text);
    if (text && Number.isNaN(day)) return;
    const late = occurrence.due && day > dueDay(occurrence.due, viewer);
    setWrong({ ...wrong, aim: late ? 'An aim comes before it is due.' : '' });
    if (late) return;
    void put({ aim: text ? { kind: 'date', date: text } : null }, text ? `aim ${longDay(day)}` : 'no aim');
  };
  const setEstimate = (text: string) => {
    const minutes = text === '' ? null : Math.round(Number(text));
    const bad = minutes !== null && !(minutes >= 0 && minutes <= 1200);
    setWrong({ ...wrong, estimate: bad ? 'Between 0 and 1200 minutes.' : '' });
    if (!bad && minutes !== occurrence.estimate)
      void put({ estimate: minutes }, minutes === null ? 'no estimate' : `estimate ${hoursWords(minutes)}`);
  };
  const running = timerSince === null ? 0 : Math.max(0, Math.round((now - Date.parse(timerSince)) / 60_000));
  return (
    <View role="group" aria-label="Yours" className="gap-3">
      <Text kind="lead" heading={3}>
        Yours
      </Text>
      {isWork && mayTick ? (
        <>
          {mayEdit ? (
            <View className="flex-row gap-3">
              {occurrence.undated ? null : (
                <View className="min-w-0 flex-1">
                  <SavedPicker
                    as={DateField}
                    label="Finished by (your aim)"
                    value={aim === null ? '' : formatDate(aim)}
                    error={wrong.aim}
                    onSave={setAim}
                  />
                </View>
              )}
              <View className="w-[124px]">
                <SavedField
                  label="Minutes it takes"
                  type="number"
                  min={0}
                  step={5}
                  value={occurrence.estimate === null ? '' : String(occurrence.estimate)}
                  error={wrong.estimate}
                  onSave={setEstimate}
                />
              </View>
            </View>
          ) : null}
          <View className="flex-row flex-wrap items-center gap-3">
            <Button
              kind="second"
              icon={Timer}
              onPress={() =>
                void put(
                  { timer: timerSince === null },
                  timerSince === null ? 'timer started' : 'timer stopped',
                  { spent, timer: false },
                )
              }
            >
              {timerSince === null ? 'Start the timer' : 'Stop the timer'}
            </Button>
            <Text kind="small">
              {spent + running
                ? `${hoursWords(spent + running) === '0 min' ? `${spent + running} min` : hoursWords(spent + running)} taken${running || timerSince ? ', and running' : ''}`
                : timerSince
                  ? 'running'
                  : 'no time taken yet'}
            </Text>
          </View>
          {spent && timerSince === null ? (
            <View className="w-[124px]">
              <SavedField
                label="Minutes taken"
                type="number"
                min={0}
                step={5}
                value={String(spent)}
                onSave={(text) => {
                  const minutes = Math.round(Number(text));
                  if (minutes >= 0 && minutes <= 60_000 && minutes !== spent)
                    void put({ spent: minutes }, `${minutes} min taken`, { spent });
                }}
              />
            </View>
          ) : null}
        </>
      ) : null}
      <View role="group" aria-label="For you alone" className="gap-3">
        <Text kind="small">Nobody else sees your note, your colour, or that you hide it.</Text>
        <OwnNote note={item.note} onSave={(note) => put({ note }, 'note changed', { note: item.note })} />
        <View className="flex-row items-end gap-3">
          <View className="min-w-0 flex-1">
            <Choice
              label="Colour"
              value={occurrence.colour ?? ''}
              onChange={(e) =>
                void put({ colour: (e.currentTarget.value || null) as LayerEdit['colour'] }, 'colour changed')
              }
              options={[
                { value: '', words: 'the calendar’s own' },
                ...COLOURS.map((value) => ({ value, words: value })),
              ]}
            />
          </View>
          <Button
            kind="quiet"
            onPress={() =>
              void put({ hidden: !occurrence.hidden }, occurrence.hidden ? 'shown again' : 'hidden')
            }
          >
            {occurrence.hidden ? 'Show it again' : 'Hide it'}
          </Button>
        </View>
      </View>
    </View>
  );
}
