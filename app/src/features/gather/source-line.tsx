import type { CalendarView, Learner, SourceView } from '@zephyrfield/core/api/schemas';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { away, shortDay, today } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import FilePlus from 'lucide-react-native/icons/file-plus';
import RefreshCw from 'lucide-react-native/icons/refresh-cw';
import { useState } from 'react';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { refreshLearner } from '@/data/queries';
import { Button, IconButton } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { ChangeCalendar } from './change-calendar';
import { ChangeSplit } from './change-split';
import { NewAddress } from './new-address';
import { ruleWords } from './split-chooser';

interface Props {
  source: SourceView;
  /** The calendars it makes: one, or as many as it is split into */
  calendars: readonly CalendarView[];
  learner: Learner;
  mayEdit: boolean;
  now: number;
  /** Its entries that are shown elsewhere, in words: `2 shown in Group B` */
  elsewhere?: readonly string[];
  /** Goes to where a newer copy of a one-time file is chosen */
  onNewerCopy(): void;
}

/**
 * What is open below a source: a calendar to be changed (by its id), its split, or the question whether it is
 * to go.
 */
type Open = { calendar: string } | 'split' | 'address' | 'remove' | null;

/** One source: whose it is, how fresh it is, what is wrong with it, and what can be done with it. */
export function SourceLine({ source, calendars, learner, mayEdit, now, elsewhere = [], onNewerCopy }: Props) {
  const client = useQueryClient();
  const [open, setOpen] = useState<Open>(null);
  const [unfolded, setUnfolded] = useState(false);
  const onSettled = () => refreshLearner(client, learner.id);
  const params = { id: source.id };
  const check = useMutation({
    mutationFn: (confirm: boolean) => call('readSource', { params, body: { confirm } }),
    onSettled,
  });
  const change = useMutation({
    mutationFn: (body: { paused?: boolean; sectionsSeen?: true }) => call('changeSource', { params, body }),
    onSettled,
  });
  const remove = useMutation({ mutationFn: () => call('removeSource', { params }), onSettled });
  const failure = check.error ?? remove.error ?? change.error;
  const problem = failure && problemOf(failure);
  const isCopy = source.kind === 'oneTimeFile';
  const isPublished = source.kind === 'published';
  const name = calendars.map((c) => c.name).join(', ') || 'Calendar';
  const ago = (iso: string | null) => (iso ? away(Date.parse(iso), now) : 'never');
  const paused = source.nextCheck === null && !isPublished;
  const only = calendars.length === 1 ? calendars[0]! : null;
  const shut = () => setOpen(null);
  const changing =
    typeof open === 'object' && open !== null ? calendars.find((c) => c.id === open.calendar) : undefined;
  return (
    <View className="gap-2 rounded-xl bg-sheet px-4 py-3 shadow-sm" role="group" aria-label={name}>
      <View className="flex-row items-center gap-3">
        <Flags calendars={calendars} />
        <View className="min-w-0 flex-1">
          <Text kind="lead" heading={2} numberOfLines={3}>
            {name}
          </Text>
          <Text kind="small">
            {isCopy
              ? `One-time file, copy of ${dayOf(source.lastGood, learner)}, does not update`
              : isPublished
                ? `Published by ${source.address}, always up to date`
                : 'Followed link, live'}{' '}
            · {[plural(source.entries, 'entry', 'entries'), ...elsewhere].join(', ')}
            {isCopy || isPublished
              ? ''
              : ` · ${paused ? `paused, last checked ${ago(source.lastChecked)}` : `checked ${ago(source.lastChecked)}`}`}
          </Text>
        </View>
        {!mayEdit || isPublished ? null : isCopy ? (
          <IconButton icon={FilePlus} label={`Read a newer copy of ${name}`} onPress={onNewerCopy} />
        ) : (
          <IconButton
            icon={RefreshCw}
            label={`Check ${name} now`}
            busy={check.isPending}
            onPress={() => check.mutate(false)}
          />
        )}
        <IconButton
          icon={unfolded ? ChevronUp : ChevronDown}
          label={`${unfolded ? 'Less' : 'More'} about ${name}`}
          aria-expanded={unfolded}
          onPress={() => setUnfolded(!unfolded)}
          className="-ml-3 -mr-2"
        />
      </View>
      {check.isPending ? <Text role="status">Reading {source.address} …</Text> : null}
      {check.data && !source.trouble && !source.heldBack ? <CheckResult {...check.data} /> : null}
      {unfolded && !isPublished ? <Text kind="small">{source.address}</Text> : null}
      {source.split && unfolded ? (
        <Sections
          source={source}
          calendars={calendars}
          mayEdit={mayEdit}
          onChange={(id) => setOpen({ calendar: id })}
        />
      ) : null}
      {source.newSections.length ? (
        <Notice kind="warning" title={newSectionsWords(source, calendars)}>
          {mayEdit ? (
            <View className="flex-row flex-wrap gap-2 pt-1">
              <Button kind="second" onPress={() => setOpen('split')}>
                Change the split
              </Button>
              <Button
                kind="quiet"
                busy={change.isPending}
                onPress={() => change.mutate({ sectionsSeen: true })}
              >
                That is right
              </Button>
            </View>
          ) : null}
        </Notice>
      ) : null}
      {source.heldBack ? (
        <Notice
          kind="warning"
          title={`The last reading had lost ${source.heldBack.missing} of ${source.heldBack.of} entries still to come.`}
        >
          <View className="gap-2">
            <Text>
              That looks like a mistake at the other end, so what you had is kept.{' '}
              {isCopy ? 'Get the file again.' : 'If it stays like this for a day, it is taken as right.'}
            </Text>
            {mayEdit && !isCopy ? (
              <Button
                kind="second"
                busy={check.isPending}
                onPress={() => check.mutate(true)}
                className="self-start"
              >
                They are really gone
              </Button>
            ) : null}
          </View>
        </Notice>
      ) : null}
      {source.trouble ? (
        <Notice kind="warning" title={source.trouble.message}>
          <View className="gap-2">
            <Text>
              Since {ago(source.trouble.since)}. What you see is from {ago(source.lastGood)}; nothing is lost.{' '}
              {source.trouble.remedy}
            </Text>
            {mayEdit && open !== 'address' ? (
              <Button kind="second" onPress={() => setOpen('address')} className="self-start">
                Enter its new link
              </Button>
            ) : null}
          </View>
        </Notice>
      ) : null}
      <ProblemNotice problem={problem} />
      {source.warnings.length ? <Warnings warnings={source.warnings} /> : null}
      {mayEdit && unfolded && open === null ? (
        <View className="-ml-4 flex-row flex-wrap">
          {only ? (
            <Button kind="quiet" onPress={() => setOpen({ calendar: only.id })} aria-label={`Change ${name}`}>
              Change
            </Button>
          ) : null}
          <Button
            kind="quiet"
            onPress={() => setOpen('split')}
            aria-label={`${source.split ? 'Change the split of' : 'Split'} ${name}`}
          >
            {source.split ? 'Change the split' : 'Split'}
          </Button>
          {isCopy ? null : (
            <Button kind="quiet" onPress={() => setOpen('address')} aria-label={`New link for ${name}`}>
              New link
            </Button>
          )}
          {isCopy ? null : (
            <Button
              kind="quiet"
              busy={change.isPending}
              onPress={() => change.mutate({ paused: !paused })}
              aria-label={`${paused ? 'Resume' : 'Pause'} ${name}`}
            >
              {paused ? 'Resume' : 'Pause'}
            </Button>
          )}
          <Button
            kind="quiet"
            onPress={() => setOpen('remove')}
            aria-label={`${isCopy ? 'Remove' : 'Stop following'} ${name}`}
          >
            {isCopy ? 'Remove' : 'Stop following'}
          </Button>
        </View>
      ) : null}
      {changing ? (
        <ChangeCalendar key={changing.id} calendar={changing} isCopy={isCopy} onDone={shut} />
      ) : null}
      {open === 'split' && calendars.length ? (
        <ChangeSplit source={source} calendars={calendars} onDone={shut} />
      ) : null}
      {open === 'address' ? <NewAddress source={source} learnerId={learner.id} onDone={shut} /> : null}
      {open === 'remove' ? (
        <Removal
          name={name}
          source={source}
          busy={remove.isPending}
          onRemove={() => remove.mutate()}
          onKeep={shut}
        />
      ) : null}
    </View>
  );
}

/** The flags of a source's calendars: one, or the first few of a split one's, one over the other. */
function Flags({ calendars }: { calendars: readonly CalendarView[] }) {
  return (
    <View className="w-[34px] items-center gap-0.5">
      {calendars.slice(0, 3).map((c) => (
        <Flag key={c.id} colour={c.colour} flag={c.flag} size={calendars.length > 1 ? 13 : 22} />
      ))}
    </View>
  );
}

const dayOf = (iso: string | null, { zone }: Learner) =>
  iso ? shortDay(today(Date.parse(iso), ianaZone(zone) ?? UTC)) : 'an unknown day';

function newSectionsWords({ newSections, sections }: SourceView, calendars: readonly CalendarView[]): string {
  const named = newSections.map((key) => {
    const found = sections.find((p) => (p.section ?? '') === key);
    const calendar = calendars.find((c) => c.id === found?.calendarId);
    return `“${key || 'without a course'}”, ${plural(found?.count ?? 0, 'entry', 'entries')}, now ${calendar ? `the calendar ${calendar.name}` : 'a calendar of its own'}`;
  });
  return `New in this source: ${named.join('; ')}.`;
}

/** The calendars of a split source, each to be changed by itself. */
function Sections({
  source,
  calendars,
  mayEdit,
  onChange,
}: {
  source: SourceView;
  calendars: readonly CalendarView[];
  mayEdit: boolean;
  onChange(id: string): void;
}) {
  return (
    <View className="gap-1">
      <Text kind="small">Split by {ruleWords(source.split!)}</Text>
      {calendars.map((calendar) => {
        const mine = source.sections.filter((p) => p.calendarId === calendar.id);
        return (
          <View key={calendar.id} className="flex-row items-center gap-3">
            <Flag colour={calendar.colour} flag={calendar.flag} size={22} />
            <Text className="flex-1">
              {calendar.name}{' '}
              <Text kind="small">
                {plural(
                  mine.reduce((n, p) => n + p.count, 0),
                  'entry',
                  'entries',
                )}
              </Text>
            </Text>
            {mayEdit ? (
              <Button
                kind="quiet"
                onPress={() => onChange(calendar.id)}
                aria-label={`Change ${calendar.name}`}
              >
                Change
              </Button>
            ) : null}
          </View>
        );
      })}
    </View>
  );
}

/** Says what goes and what stays, before a source is taken away. */
function Removal({
  name,
  source,
  busy,
  onRemove,
  onKeep,
}: {
  name: string;
  source: SourceView;
  busy: boolean;
  onRemove(): void;
  onKeep(): void;
}) {
  const isCopy = source.kind === 'oneTimeFile';
  return (
    <Notice kind="warning" title={isCopy ? `Take away ${name}?` : `Stop following ${name}?`}>
      <View className="gap-2">
        <Text>
          {source.records
            ? `Its entries go; the ${source.records === 1 ? 'one thing' : `${source.records} things`} ticked off or noted in it ${source.records === 1 ? 'stays' : 'stay'}, as ${source.records === 1 ? 'a record' : 'records'} under its flag.`
            : `Its ${plural(source.entries, 'entry', 'entries')} go.`}{' '}
          {source.kind === 'published'
            ? `${source.address} can offer it to you again.`
            : `The course itself is not touched${isCopy ? '.' : ', and you can follow the link again.'}`}
        </Text>
        <View className="flex-row flex-wrap gap-2">
          <Button busy={busy} onPress={onRemove}>
            Delete
          </Button>
          <Button kind="second" onPress={onKeep}>
            Keep it
          </Button>
        </View>
      </View>
    </Notice>
  );
}

function Warnings({ warnings }: { warnings: SourceView['warnings'] }) {
  return (
    <View>
      <Text kind="small" className="font-bold text-marigold">
        {plural(warnings.length, 'thing')} in it could not be read
      </Text>
      {warnings.slice(0, 3).map((w, i) => (
        <Text key={i} kind="small">
          {w.line ? `Line ${w.line}: ` : ''}
          {w.message}
        </Text>
      ))}
    </View>
  );
}

function CheckResult({
  unchanged,
  added,
  changed,
  gone,
}: {
  unchanged: boolean;
  added: number;
  changed: number;
  gone: number;
}) {
  const words = [
    added ? `${added} new` : null,
    changed ? `${changed} changed` : null,
    gone ? `${gone} gone` : null,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <Text kind="label" role="status" className="text-fern">
      {unchanged ? 'Checked: nothing has changed.' : `Checked: ${words}.`}
    </Text>
  );
}
