import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import type { Part, PlanSettings } from '@zephyrfield/core/plan/evenings';
import { linesOf, partsOf } from '@zephyrfield/core/plan/parts';
import { PATTERNS, patternFor, type RunUpOf } from '@zephyrfield/core/plan/run-up';
import { minutesSaid } from '@zephyrfield/core/plan/said';
import { hoursWords } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { writePlanSettings } from '@/data/plan';
import { useItem } from '@/data/queries';
import { Button } from '@/ui/button';
import { DateField } from '@/ui/date-field';
import { Choice, Field, LongField } from '@/ui/field';
import { SavedField } from '@/ui/saved-field';
import { Text } from '@/ui/text';
import { paceFor } from './use-proposal';
import type { PlanScene } from './use-plan-scene';

const SAID_WORDS: Record<RunUpOf['saidBy'], string> = {
  feed: 'its course says so',
  brief: 'its brief says so',
  own: 'you said so',
  pages: 'by its pages',
  pace: 'by your pace',
  usual: 'usual for what it is',
};

interface Props {
  scene: PlanScene;
  occurrence: OccurrenceView;
  runUp: RunUpOf;
  onChange(runUp: RunUpOf): void;
}

/** How a piece of work is to be worked on: how long, from when, in which parts. */
export function RunUpFields({ scene, occurrence, runUp, onChange }: Props) {
  const [wrong, setWrong] = useState('');
  const put = (change: Partial<RunUpOf>) => onChange({ ...runUp, ...change });
  const setMinutes = (text: string) => {
    const minutes = Math.round(Number(text));
    const isBad = !(minutes >= 5 && minutes <= 60_000);
    setWrong(isBad ? 'Between 5 minutes and 1,000 hours.' : '');
    if (!isBad && minutes !== runUp.minutes) put({ minutes, saidBy: 'own' });
  };
  const pace = paceFor(occurrence, scene);
  const item = useItem(occurrence.itemId, occurrence.recurrenceId).data;
  const said = item ? saidOf(item) : null;
  const isBrief = minutesSaid((item?.brief.ofDate ?? item?.brief.shared)?.time ?? '') !== null;
  return (
    <View className="gap-3 pb-2">
      <View className="flex-row flex-wrap items-end gap-3">
        <View className="w-[124px]">
          <SavedField
            label="Minutes in all"
            inputMode="numeric"
            value={String(runUp.minutes)}
            error={wrong || undefined}
            onSave={setMinutes}
          />
        </View>
        <Text kind="small" className="min-w-0 flex-1 pb-3">
          {`${hoursWords(runUp.minutes)}, ${SAID_WORDS[runUp.saidBy]}`}
        </Text>
      </View>
      {pace && pace.minutes !== runUp.minutes ? (
        <View className="flex-row flex-wrap items-center gap-x-2">
          <Text kind="small">{`Such work takes ${firstName(scene.learner.name)} ${pace.factor.toFixed(1)} × as long, from ${pace.from}.`}</Text>
          <Button
            kind="quiet"
            className="-ml-2 px-2"
            onPress={() => put({ minutes: pace.minutes, saidBy: 'pace' })}
          >
            {`Take ${hoursWords(pace.minutes)}`}
          </Button>
        </View>
      ) : null}
      {said && said !== runUp.minutes ? (
        <View className="flex-row flex-wrap items-center gap-x-2">
          <Text kind="small">{`${isBrief ? 'Its brief' : 'Its course'} says ${hoursWords(said)}.`}</Text>
          <Button
            kind="quiet"
            className="-ml-2 px-2"
            onPress={() => put({ minutes: said, saidBy: isBrief ? 'brief' : 'feed' })}
          >
            {`Take ${hoursWords(said)}`}
          </Button>
        </View>
      ) : null}
      <Pages onTake={(minutes) => put({ minutes, saidBy: 'pages' })} />
      <DateField
        label="Begin on"
        isRequired
        value={runUp.firstDay}
        onChange={(firstDay) => firstDay && put({ firstDay })}
      />
      <Choice
        label="Sittings a day"
        value={String(runUp.perDay)}
        options={['1', '2', '3'].map((value) => ({ value, words: `at most ${value}` }))}
        onChange={(e) => put({ perDay: Number(e.currentTarget.value) })}
      />
      <Choice
        label="The evening before it is due"
        value={runUp.polish ? 'yes' : 'no'}
        options={[
          { value: 'yes', words: 'a last polish' },
          { value: 'no', words: 'may stay free' },
        ]}
        onChange={(e) => put({ polish: e.currentTarget.value === 'yes' })}
      />
      <Parts scene={scene} occurrence={occurrence} runUp={runUp} onChange={(parts) => put({ parts })} />
    </View>
  );
}

/** Tells how long its brief says that it takes, else what its course says. */
const saidOf = ({ brief, description }: ItemView): number | null =>
  minutesSaid((brief.ofDate ?? brief.shared)?.time ?? '') ??
  minutesSaid(description.map((p) => p.runs.map((r) => r.text).join('')).join('\n'));

/** Pages times minutes a page. */
function Pages({ onTake }: { onTake(minutes: number): void }) {
  const [isOpen, setOpen] = useState(false);
  const [pages, setPages] = useState('');
  const [each, setEach] = useState('3');
  const minutes = Math.round(Number(pages) * Number(each));
  if (!isOpen)
    return (
      <Button kind="quiet" className="-ml-4 self-start" onPress={() => setOpen(true)}>
        Work it out from pages
      </Button>
    );
  return (
    <View className="flex-row items-end gap-3">
      <View className="w-[88px]">
        <Field
          label="Pages"
          inputMode="numeric"
          value={pages}
          onChange={(e) => setPages(e.currentTarget.value)}
        />
      </View>
      <View className="w-[124px]">
        <Field
          label="Minutes a page"
          inputMode="decimal"
          value={each}
          onChange={(e) => setEach(e.currentTarget.value)}
        />
      </View>
      <Button kind="second" disabled={!(minutes >= 5 && minutes <= 60_000)} onPress={() => onTake(minutes)}>
        {minutes >= 5 ? `Take ${hoursWords(minutes)}` : 'Take'}
      </Button>
    </View>
  );
}

function Parts({
  scene,
  occurrence,
  runUp,
  onChange,
}: Omit<Props, 'onChange'> & { onChange(parts: Part[]): void }) {
  const { settings, learner } = scene;
  const own = settings.patterns;
  const [isOpen, setOpen] = useState(false);
  const [lines, setLines] = useState(linesOf(runUp.parts));
  const [name, setName] = useState('');
  // One's own come first, and stand for the usual one of the same name.
  const all = [...own, ...Object.values(PATTERNS).filter((p) => !own.some((o) => o.name === p.name))];
  const chosen = all.find((p) => linesOf(p.parts) === linesOf(runUp.parts));
  const keep = (patterns: PlanSettings['patterns'], words: string) =>
    void writePlanSettings(learner.id, { ...settings, patterns }, words);
  const take = (parts: Part[]) => {
    setLines(linesOf(parts));
    onChange(parts);
  };
  return (
    <View className="gap-2">
      <Choice
        label="In parts"
        value={chosen?.name ?? ''}
        options={[
          ...(chosen ? [] : [{ value: '', words: 'of your own' }]),
          ...all.map((p) => ({
            value: p.name,
            words: p.parts.length ? `${p.name}: ${p.parts.map((part) => part.name).join(', ')}` : 'no parts',
          })),
        ]}
        onChange={(e) =>
          take((all.find((p) => p.name === e.currentTarget.value) ?? patternFor(occurrence)).parts)
        }
      />
      <Pressable
        role="button"
        aria-expanded={isOpen}
        onPress={() => setOpen(!isOpen)}
        className="min-h-touch justify-center self-start"
      >
        <Text kind="label" className="text-lagoon underline">
          Change the parts
        </Text>
      </Pressable>
      {isOpen ? (
        <>
          <LongField
            label="One part a line, with its share"
            rows={5}
            value={lines}
            onChange={(e) => setLines(e.currentTarget.value)}
            onBlur={() => onChange(partsOf(lines))}
          />
          <View className="flex-row items-end gap-3">
            <View className="min-w-0 flex-1">
              <Field
                label="Keep it as a pattern named"
                value={name}
                maxLength={120}
                onChange={(e) => setName(e.currentTarget.value)}
              />
            </View>
            <Button
              kind="second"
              disabled={!name.trim() || !partsOf(lines).length}
              onPress={() => {
                const pattern = { name: name.trim(), parts: partsOf(lines) };
                const patterns = [...own.filter((p) => p.name !== pattern.name), pattern];
                keep(patterns, `Pattern “${pattern.name}” kept`);
                setName('');
              }}
            >
              Keep
            </Button>
          </View>
          {own.map(({ name: kept }) => (
            <View key={kept} className="flex-row items-center justify-between gap-3">
              <Text kind="small" className="min-w-0 flex-1">{`Your pattern “${kept}”`}</Text>
              <Button
                kind="quiet"
                aria-label={`Forget the pattern ${kept}`}
                onPress={() =>
                  keep(
                    own.filter((p) => p.name !== kept),
                    `Pattern “${kept}” forgotten`,
                  )
                }
              >
                Forget
              </Button>
            </View>
          ))}
        </>
      ) : null}
    </View>
  );
}
