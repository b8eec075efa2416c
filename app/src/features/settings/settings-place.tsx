import { suffices } from '@zephyrfield/core/item/access';
import type { Session } from '@zephyrfield/core/api/schemas';
import { Settings } from '@zephyrfield/core/api/values';
import type { Loads } from '@zephyrfield/core/view/settings';
import { KIND_GROUP_WORDS } from '@zephyrfield/core/item/words';
import { minuteWords } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { useLearner, useSettings } from '@/data/learner';
import { keys } from '@/data/queries';
import { Choices } from '@/ui/choices';
import { Choice } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { SavedField } from '@/ui/saved-field';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { TermForm } from './term-form';
import { ZoneField } from '@/ui/date-field';

const HOURS = [
  ['24', '16:10'],
  ['12', '4:10 pm'],
] as const;
const FIRST_DAYS = [
  ['1', 'Monday'],
  ['6', 'Saturday'],
  ['7', 'Sunday'],
] as const;
const WEEKS = [
  ['term', 'term names'],
  ['year', 'numbers in the year'],
] as const;
const THEMES = [
  ['system', 'as the device'],
  ['light', 'light'],
  ['dark', 'dark'],
] as const;

/** How a person likes to look at things. Each change is saved as it is made and shows at once. */
export function SettingsPlace() {
  const { learner } = useLearner()!;
  const settings = useSettings();
  const client = useQueryClient();
  const [errors, setErrors] = useState<Record<string, string>>({});
  const save = useMutation({
    mutationFn: (body: Settings) => call('changeSettings', { body }),
    onMutate: (next) => {
      const before = client.getQueryData<Session>(keys.session);
      client.setQueryData<Session>(keys.session, (session) => session && { ...session, settings: next });
      return before;
    },
    onError: (_error, _next, before) => client.setQueryData(keys.session, before),
  });
  /** Saves what is right; what is not is told at its field and changes nothing. */
  const change = (part: Partial<Settings>, field = Object.keys(part)[0]!) => {
    const result = Settings.safeParse({ ...settings, ...part });
    setErrors((all) => ({
      ...all,
      [field]: result.success ? '' : (result.error.issues[0]?.message ?? 'That is not right.'),
    }));
    if (result.success) save.mutate(result.data);
  };
  const hour = (h: number) => minuteWords(h * 60, settings.hours);
  const hours = Array.from({ length: 25 }, (_, h) => ({
    value: String(h),
    words: h === 24 ? 'midnight' : hour(h),
  }));
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 px-4 pb-12 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title="Settings" says="These settings are yours alone." />
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      <Group title="Time">
        <Row words="Hours">
          <Choices
            label="Hours"
            all={HOURS}
            value={String(settings.hours) as '12' | '24'}
            onChange={(v) => change({ hours: v === '12' ? 12 : 24 })}
          />
        </Row>
        <Row words="First day of the week">
          <Choices
            label="First day of the week"
            all={FIRST_DAYS}
            value={String(settings.firstDay) as '1' | '6' | '7'}
            onChange={(v) => change({ firstDay: Number(v) as 1 | 6 | 7 })}
          />
        </Row>
        <Row words="Names of weeks">
          <Choices
            label="Names of weeks"
            all={WEEKS}
            value={settings.weeks}
            onChange={(weeks) => change({ weeks })}
          />
        </Row>
        <ZoneField
          label="Your time zone"
          value={settings.zone ?? ''}
          otherwise={`${firstName(learner.name)}’s own, ${learner.zone}`}
          error={errors['zone']}
          onChange={(zone) => change({ zone: zone || null })}
        />
      </Group>
      <Group title="Days">
        <View className="flex-row flex-wrap gap-3">
          <View className="min-w-[140px] flex-1">
            <Choice
              label="Show hours from"
              value={String(settings.dayFrom)}
              options={hours.slice(0, 24)}
              onChange={(e) => change({ dayFrom: Number(e.currentTarget.value) })}
              error={errors['dayFrom'] || undefined}
            />
          </View>
          <View className="min-w-[140px] flex-1">
            <Choice
              label="to"
              value={String(settings.dayTo)}
              options={hours.slice(1)}
              onChange={(e) => change({ dayTo: Number(e.currentTarget.value) })}
              error={errors['dayTo'] || undefined}
            />
          </View>
        </View>
        <Choice
          label="Deadlines count as “by end of day” from"
          hint="So that 23:59 is never out of sight"
          value={String(settings.shelfFrom)}
          options={hours}
          onChange={(e) => change({ shelfFrom: Number(e.currentTarget.value) })}
        />
        <Choice
          label="The night lasts until"
          hint="A deadline after midnight counts as tonight’s up to then"
          value={String(settings.nightUntil)}
          options={hours.slice(0, 7).map((h) => (h.value === '0' ? { ...h, words: 'midnight' } : h))}
          onChange={(e) => change({ nightUntil: Number(e.currentTarget.value) })}
        />
        <SavedField
          label="Days ahead in “Next up”"
          inputMode="numeric"
          value={String(settings.ahead)}
          error={errors['ahead']}
          onSave={(text) => change({ ahead: Number(text) })}
        />
      </Group>
      <Group title="Appearance">
        <Choices
          label="Light or dark"
          all={THEMES}
          value={settings.theme}
          onChange={(theme) => change({ theme })}
        />
      </Group>
      <Group
        title="How long work takes"
        detail="In minutes, when nothing else is known. It decides how heavy a day or week looks."
      >
        <View className="flex-row flex-wrap gap-3">
          {(Object.keys(settings.loads) as (keyof Loads)[]).map((kind) => (
            <View key={kind} className="w-[140px]">
              <SavedField
                label={KIND_GROUP_WORDS[kind]}
                inputMode="numeric"
                value={String(settings.loads[kind])}
                error={errors[`loads ${kind}`]}
                onSave={(text) =>
                  change({ loads: { ...settings.loads, [kind]: Number(text) } }, `loads ${kind}`)
                }
              />
            </View>
          ))}
        </View>
      </Group>
      <Group title="The term" detail={`${firstName(learner.name)}’s, for everybody who looks.`}>
        <TermForm key={learner.id} mayEdit={suffices(learner.access, 'edit')} />
      </Group>
    </ScrollView>
  );
}

function Group({ title, detail, children }: { title: string; detail?: string; children: React.ReactNode }) {
  return (
    <View role="group" aria-label={title} className="gap-3 border-t border-line pt-4">
      <View>
        <Text kind="title" heading={2}>
          {title}
        </Text>
        {detail ? <Text kind="small">{detail}</Text> : null}
      </View>
      {children}
    </View>
  );
}

function Row({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <View className="gap-0.5">
      <Text kind="label">{words}</Text>
      <View className="-ml-2">{children}</View>
    </View>
  );
}
