import { late } from '@/data/late';
import type { OccurrenceView, CalendarView, ItemView } from '@zephyrfield/core/api/schemas';
import type { Zone } from '@zephyrfield/core/time/zone';
import { agendaEntry } from '@zephyrfield/core/view/entry';
import {
  away,
  clockTime,
  daysAway,
  dueWords,
  spanWords,
  today,
  whenWords,
} from '@zephyrfield/core/words/when';
import { capital } from '@zephyrfield/core/words/text';
import { changeWords } from '@zephyrfield/core/item/change';
import { civilDate } from '@zephyrfield/core/time/civil';
import { dayIn, instantIn } from '@zephyrfield/core/time/when';
import Check from 'lucide-react-native/icons/check';
import ExternalLink from 'lucide-react-native/icons/external-link';
import FileText from 'lucide-react-native/icons/file-text';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import Undo from 'lucide-react-native/icons/undo-2';
import Video from 'lucide-react-native/icons/video';
import { useEffect, type ComponentType } from 'react';
import type { Viewer } from '@zephyrfield/core/words/when';
import { Linking, Pressable, View } from 'react-native';
import { problemOf } from '@/data/client';
import { useDraft } from '@/data/draft';
import { finish, keepOpen } from '@/data/layer';
import { ownAt } from '@/data/own-at';
import { noteOpened } from '@/data/opened';
import { keys, queryClient, useItem } from '@/data/queries';
import { allWritten } from '@/data/writing';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { Passages } from '@/ui/passages';
import { Sheet } from '@/ui/sheet';
import { ItemHead } from '@/ui/item-head';
import { Text } from '@/ui/text';
import { lazyComponent } from '@/ui/lazy';
import { JOIN_AHEAD } from '@zephyrfield/core/view/filter';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { opensWords, URGENCY_WORDS } from '@zephyrfield/core/view/slips';
import type * as remindersModule from './reminders';
import type * as recordsModule from './records';
import type * as ownLayerModule from './own-layer';
import type * as itemUnderstandingModule from './item-understanding';
import type * as willYouComeModule from './will-you-come';
import type * as itemNotesModule from './item-notes';
import type * as itemOutlineModule from './item-outline';
import type * as joinItemsModule from './join-items';

declare module '@/data/late' {
  interface LateParts {
    RunUpPart: ComponentType<{
      occurrence: OccurrenceView;
      learnerId: string;
      viewer: Viewer;
      now: number;
      mayEdit: boolean;
    }>;
    Reminders: typeof remindersModule.Reminders;
    Records: typeof recordsModule.Records;
    OwnLayer: typeof ownLayerModule.OwnLayer;
    ItemUnderstanding: typeof itemUnderstandingModule.ItemUnderstanding;
    WillYouCome: typeof willYouComeModule.WillYouCome;
    ItemNotes: typeof itemNotesModule.ItemNotes;
    ItemOutline: typeof itemOutlineModule.ItemOutline;
    JoinItems: typeof joinItemsModule.JoinItems;
  }
}

interface Props {
  id: string;
  recurrenceId: string;
  learnerId: string;
  mayTick: boolean;
  mayEdit: boolean;
  calendars: readonly CalendarView[];
  now: number;
  viewer: Zone;
  onClose(): void;
}

/** Everything known of one item. */
export function ItemSheet({
  id,
  recurrenceId,
  learnerId,
  mayTick,
  mayEdit,
  calendars,
  now,
  viewer,
  onClose,
}: Props) {
  const { data, error, isPending } = useItem(id, recurrenceId);
  const isWriting = useDraft((s) => s.openFor !== null);
  const problem = error && problemOf(error);
  const openedId = data?.occurrence.itemId;
  useEffect(() => {
    if (openedId) noteOpened(openedId);
  }, [openedId]);
  return (
    <Sheet label={data?.occurrence.title ?? 'Item'} givesWay={isWriting} onClose={onClose}>
      {problem ? (
        <View className="pt-12">
          <Notice kind="trouble" title={problem.title}>
            {problem.remedy}
          </Notice>
        </View>
      ) : null}
      {isPending ? <Waiting /> : null}
      {data ? (
        <Content
          item={data}
          calendar={calendars.find((c) => c.id === data.occurrence.calendarId)}
          learnerId={learnerId}
          mayTick={mayTick}
          mayEdit={mayEdit}
          now={now}
          viewer={viewer}
        />
      ) : null}
    </Sheet>
  );
}

function Waiting() {
  return (
    <View role="status" aria-label="Loading the item" className="gap-3 pt-2">
      <View className="h-4 w-1/2 rounded bg-line" />
      <View className="h-7 w-4/5 rounded bg-line" />
      <View className="h-4 w-2/3 rounded bg-line" />
    </View>
  );
}

function Content({
  item,
  calendar,
  learnerId,
  mayTick,
  mayEdit,
  now,
  viewer,
}: Omit<Props, 'id' | 'recurrenceId' | 'calendars' | 'onClose'> & {
  item: ItemView;
  calendar: CalendarView | undefined;
}) {
  const { occurrence } = item;
  const entry = agendaEntry(occurrence, now, viewer);
  const own = ownAt(item);
  const isPublished = item.origin.kind === 'published';
  const copy = () =>
    useDraft.getState().begin(learnerId, {
      day: dateText(entry.day),
      calendarId: occurrence.calendarId,
      fields: { ...copyFields(item, entry.urgency !== null, viewer), lastDay: dateText(entry.lastDay) },
    });
  const thisYear = civilDate(today(now, viewer)).year;
  const isWork = entry.urgency !== null;
  const meeting = isWork ? undefined : item.links.find((l) => l.role === 'meeting');
  const begins = instantIn(occurrence.start, viewer);
  const isNear =
    begins - now < JOIN_AHEAD &&
    now < (occurrence.end ? instantIn(occurrence.end, viewer) : begins + JOIN_AHEAD);
  const when =
    isWork && occurrence.due
      ? dueWords(occurrence.due, viewer, thisYear)
      : whenWords({ kind: 'date', date: dateText(entry.day) }, viewer, thisYear);
  return (
    <View className="gap-5">
      <ItemHead calendar={calendar} title={occurrence.title}>
        <Text>
          <Text kind="strong">{isWork ? `Due ${when}` : when}</Text>
          {isWork ? '' : `, ${spanWords(occurrence.start, occurrence.end, viewer)}`}
          <Text className="text-ink2">
            {' '}
            ·{' '}
            {isWork && occurrence.due?.kind !== 'date' && entry.urgency === 'soon' && occurrence.due
              ? away(instantIn(occurrence.due, viewer), now)
              : daysAway(entry.day, today(now, viewer))}
          </Text>
        </Text>
        {occurrence.status === 'cancelled' ? <Text className="font-bold text-poppy">Called off</Text> : null}
        {item.gone ? (
          <Text className="font-bold text-marigold">{item.own ? 'Deleted' : 'No longer in its feed'}</Text>
        ) : null}
        <Text className="text-ink2">
          {[
            KIND_WORDS[occurrence.kind],
            isWork ? opensWords(occurrence, viewer) : null,
            isWork ? HAND_IN_WORDS[occurrence.handIn] : null,
            occurrence.place || null,
            item.repeats ? 'repeats' : null,
          ]
            .filter(Boolean)
            .join(' · ')}
        </Text>
      </ItemHead>

      {meeting && isNear ? (
        <Button icon={Video} onPress={() => void Linking.openURL(meeting.href)} className="self-start">
          {meeting.label ?? LINK_WORDS.meeting}
        </Button>
      ) : null}

      {isWork ? (
        <View className="gap-2">
          {occurrence.finished ? (
            <View className="flex-row items-center gap-2">
              <Check size={20} color="var(--fern)" aria-hidden />
              <Text kind="strong" className="text-fern">
                {occurrence.finishedAt
                  ? `Finished ${whenWords({ kind: 'instant', at: occurrence.finishedAt.slice(0, 19) + 'Z', zone: 'UTC' }, viewer, thisYear)}`
                  : occurrence.doneInCourse
                    ? 'Finished, its course says'
                    : 'Finished'}
              </Text>
            </View>
          ) : entry.urgency === 'pastDue' || entry.urgency === 'closed' ? (
            <Text kind="strong" className={entry.urgency === 'pastDue' ? 'text-poppy' : ''}>
              {capital(URGENCY_WORDS[entry.urgency])}
            </Text>
          ) : null}
          {mayTick ? (
            <Button
              kind={occurrence.finished ? 'second' : 'primary'}
              icon={occurrence.finished ? Undo : Check}
              onPress={() => void finish(learnerId, occurrence, !occurrence.finished)}
              className="self-start"
            >
              {occurrence.finished ? 'Not finished after all' : 'Finish'}
            </Button>
          ) : null}
          {mayTick && entry.urgency === 'closed' ? (
            <Button kind="quiet" onPress={() => void keepOpen(learnerId, occurrence)} className="self-start">
              It can still be handed in
            </Button>
          ) : null}
        </View>
      ) : null}

      {item.description.length ? (
        <View className="gap-2">
          <Text kind="lead" heading={3}>
            What is expected
          </Text>
          <Passages passages={item.description} />
        </View>
      ) : null}

      {item.links.length ? (
        <View className="gap-1">
          <Text kind="lead" heading={3}>
            Links
          </Text>
          {item.links.map((link) => (
            <LinkRow key={link.href} {...link} />
          ))}
        </View>
      ) : null}

      {mayEdit || item.brief.shared || item.brief.ofDate || item.brief.files.length ? (
        // It is loaded when it is first needed, and what is below it stays where it is meanwhile.
        <View className="min-h-touch">
          <Brief
            key={occurrence.recurrenceId}
            item={item}
            learnerId={learnerId}
            mayEdit={mayEdit && !isPublished}
          />
        </View>
      ) : null}

      {(isWork || occurrence.kind === 'test') && !occurrence.undated ? (
        // As the brief: what is below it stays where it is while it is loaded.
        <View className="min-h-touch">
          <RunUpPart
            occurrence={occurrence}
            learnerId={learnerId}
            viewer={viewer}
            now={now}
            mayEdit={mayEdit}
          />
        </View>
      ) : null}

      {item.gone ? null : (
        <Reminders
          key={`reminders ${occurrence.recurrenceId}`}
          item={item}
          learnerId={learnerId}
          viewer={viewer}
          mayEdit={mayEdit}
        />
      )}

      {isWork || occurrence.undated ? null : <WillYouCome occurrence={occurrence} />}

      <ItemNotes occurrence={occurrence} learnerId={learnerId} now={now} />

      <Records item={item} learnerId={learnerId} viewer={viewer} thisYear={thisYear} mayTick={mayTick} />

      <OwnLayer
        key={occurrence.recurrenceId}
        item={item}
        learnerId={learnerId}
        viewer={viewer}
        now={now}
        isWork={isWork}
        mayTick={mayTick}
        mayEdit={mayEdit}
      />

      {item.history.length ? (
        <View className="gap-1">
          <Text kind="lead" heading={3}>
            What changed
          </Text>
          {item.history.map((change) => (
            <Text key={change.id}>
              {changeWords(change, viewer)} <Text kind="small">{away(Date.parse(change.at), now)}</Text>
            </Text>
          ))}
        </View>
      ) : null}

      <View className="gap-1 border-t border-line pt-4">
        <Text kind="small">
          {item.own ? `Added by hand to ${item.origin.calendar}` : `From ${item.origin.calendar}`}
          {item.origin.course && item.origin.course !== item.origin.calendar ? `, ${item.origin.course}` : ''}
          {item.origin.address ? ` · ${ORIGIN_WORDS[item.origin.kind]} ${item.origin.address}` : ''}
        </Text>
        {item.own ? <ItemOutline learnerId={learnerId} itemId={occurrence.itemId} /> : null}
        {item.looked ? (
          <Text kind="small">
            {`${item.looked.opened} of the ${item.looked.of} who follow this calendar have opened it`}
          </Text>
        ) : null}
        {isPublished ? (
          <Text kind="small">
            {`Only ${item.origin.address} can change it, and sees in how many families it was opened, never in which`}
          </Text>
        ) : item.origin.lastGood ? (
          <Text kind="small">Last read {away(Date.parse(item.origin.lastGood), now)}</Text>
        ) : null}
        {item.duplicates.filter((t) => !t.notDuplicate).length && !mayEdit ? (
          <Text kind="small">
            Also in{' '}
            {item.duplicates
              .filter((t) => !t.notDuplicate)
              .map((t) => t.calendar)
              .join(', ')}
          </Text>
        ) : null}
        {item.percent !== null ? <Text kind="small">Its course says {item.percent} % done</Text> : null}
        {item.categories.length ? <Text kind="small">Marked as {item.categories.join(', ')}</Text> : null}
      </View>

      {mayEdit ? (
        <Button
          kind={item.own ? 'second' : 'quiet'}
          icon={PencilLine}
          className={item.own ? 'self-start' : '-ml-4 self-start'}
          onPress={() => (own ? void change(learnerId, item) : copy())}
        >
          {item.own ? 'Change it' : 'Make my own copy'}
        </Button>
      ) : null}

      {mayEdit && !item.own && !isPublished ? (
        <ItemUnderstanding key={occurrence.itemId} item={item} learnerId={learnerId} viewer={viewer} />
      ) : null}
      {mayEdit && item.own ? <JoinItems item={item} learnerId={learnerId} viewer={viewer} /> : null}
    </View>
  );
}

const ORIGIN_WORDS: Record<ItemView['origin']['kind'], string> = {
  followedLink: 'followed link',
  oneTimeFile: 'one-time file',
  published: 'published by',
  handMade: '',
};
const RunUpPart = lazyComponent(late('RunUpPart'));
const Reminders = lazyComponent(late('Reminders'));
const Records = lazyComponent(late('Records'));
const OwnLayer = lazyComponent(late('OwnLayer'));
const ItemUnderstanding = lazyComponent(late('ItemUnderstanding'));
const WillYouCome = lazyComponent(late('WillYouCome'));
const ItemNotes = lazyComponent(late('ItemNotes'));
const ItemOutline = lazyComponent(late('ItemOutline'));
const JoinItems = lazyComponent(late('JoinItems'));
const Brief = lazyComponent(() => import('./brief').then((m) => m.Brief));

/** Begins to change an own item, as it stands once what was just done to it (moved, say) has been written. */
async function change(learnerId: string, shown: ItemView): Promise<void> {
  await allWritten();
  const { itemId, recurrenceId } = shown.occurrence;
  const editing = ownAt(queryClient.getQueryData<ItemView>(keys.item(itemId, recurrenceId)) ?? shown);
  if (editing) useDraft.getState().begin(learnerId, { editing });
}

/** Gives what the form for own items begins with, for a copy that is free to be changed. */
function copyFields({ occurrence, description }: ItemView, isWork: boolean, viewer: Zone) {
  const when = occurrence.due ?? occurrence.start;
  const minute = (w: typeof when | null) => (w && w.kind !== 'date' ? clockTime(w, viewer) : '');
  return {
    purpose: isWork
      ? 'do'
      : occurrence.kind === 'dayOff'
        ? 'off'
        : occurrence.kind === 'reminder'
          ? 'remind'
          : 'be',
    kind: occurrence.kind,
    handIn: occurrence.handIn,
    title: occurrence.title,
    place: occurrence.place,
    calendarId: occurrence.calendarId,
    day: dateText(dayIn(when, viewer)),
    time: minute(when),
    until: isWork ? '' : minute(occurrence.end),
    details: description.map((p) => p.runs.map((r) => r.text).join('')).join('\n'),
  };
}

const dateText = (day: number) => new Date(day * 86_400_000).toISOString().slice(0, 10);

const LINK_ICONS = { page: ExternalLink, meeting: Video, file: FileText };
const LINK_WORDS = { page: 'Open the original page', meeting: 'Join the meeting', file: 'Open the file' };

function LinkRow({ href, label, role }: ItemView['links'][number]) {
  const Icon = LINK_ICONS[role];
  const host = /^https?:\/\/([^/]+)/.exec(href)?.[1] ?? href;
  return (
    <Pressable
      role="link"
      href={href}
      hrefAttrs={{ target: '_blank', rel: 'noopener noreferrer' }}
      onPress={() => void Linking.openURL(href)}
      className="min-h-touch flex-row items-center gap-3 rounded-lg px-2 hover:bg-lagoon-wash"
    >
      <Icon size={20} color="var(--lagoon)" aria-hidden />
      <View className="flex-1">
        <Text kind="strong" className="text-lagoon">
          {label ?? LINK_WORDS[role]}
        </Text>
        <Text kind="small" numberOfLines={1}>
          leads to {host}
        </Text>
      </View>
    </Pressable>
  );
}
