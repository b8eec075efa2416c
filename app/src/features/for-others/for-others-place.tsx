import type { Publication } from '@zephyrfield/core/api/publish';
import type { CalendarView, Learner } from '@zephyrfield/core/api/schemas';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { Link, router } from '@/router';
import { call, problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useLearner } from '@/data/learner';
import { useOwnLearner, usePublications } from '@/data/publish';
import { keys, refresh, useCalendars, useSession } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Button } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { linkLook } from '@/ui/link-look';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { CarryForm } from './carry-form';
import { OfferForm } from './offer-form';

const FOLLOWED =
  'What you write into one of these is there for all who follow it, within seconds. They tick it off and add to it ' +
  'for themselves; nobody but you can change it.';

/**
 * Calendars that somebody keeps for others: whom each is offered to, who has taken it in, and last term’s laid over the
 * next one.
 * @param newCalendar a form that begins a calendar in a schedule
 */
export function ForOthersPlace({
  newCalendar,
}: {
  newCalendar(learner: Learner, calendars: readonly CalendarView[], onMade: () => void): ReactNode;
}) {
  const own = useOwnLearner();
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-3 px-4 pb-12 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title="Crew" says={FOLLOWED} />
      {own ? <Calendars own={own} newCalendar={newCalendar} /> : <NoneYet />}
    </ScrollView>
  );
}

/** Whoever has no schedule of their own begins one here: the calendars stand in it. */
function NoneYet() {
  const { learner } = useLearner()!;
  const { name } = useSession().data!.person!;
  const [key] = useState(newKey);
  const begin = useMutation({
    mutationFn: () => call('addLearner', { body: { name, zone: learner.zone, isSelf: true, key } }),
    onSuccess: () => refresh(keys.session),
  });
  return (
    <View className="gap-3 pt-3">
      <Text>
        These calendars stand in a schedule of your own. It is beside those of the learners you see, and
        nobody else sees it.
      </Text>
      <ProblemNotice problem={begin.error && problemOf(begin.error)} />
      <Button busy={begin.isPending} onPress={() => begin.mutate()} className="self-start">
        Begin a schedule of my own
      </Button>
    </View>
  );
}

function Calendars({
  own,
  newCalendar,
}: {
  own: Learner;
  newCalendar(learner: Learner, calendars: readonly CalendarView[], onMade: () => void): ReactNode;
}) {
  const calendars = useCalendars(own.id);
  const publications = usePublications(own.id);
  const [making, setMaking] = useState(false);
  const failure = calendars.error ?? publications.error;
  const mine = calendars.data?.filter((c) => c.handMade) ?? [];
  return (
    <View className="gap-3 pt-2">
      <ProblemNotice problem={failure && problemOf(failure)} />
      {mine.map((calendar) => (
        <CalendarLine
          key={calendar.id}
          own={own}
          calendar={calendar}
          publication={publications.data?.find((p) => p.calendarId === calendar.id)}
        />
      ))}
      {making ? (
        <>
          {newCalendar(own, calendars.data ?? [], () => setMaking(false))}
          <Button kind="second" className="self-start" onPress={() => setMaking(false)}>
            Cancel
          </Button>
        </>
      ) : (
        <Button
          kind={mine.length ? 'second' : 'primary'}
          className="self-start"
          onPress={() => setMaking(true)}
        >
          Begin a calendar
        </Button>
      )}
      <Text kind="small">
        Whoever has no account here follows a live link or reads a page: make one in{' '}
        <Link
          href="/crew"
          className={linkLook('small')}
          onPress={() => useScreen.getState().chooseLearner(own.id)}
        >
          Crew
        </Link>
        .
      </Text>
    </View>
  );
}

function CalendarLine({
  own,
  calendar,
  publication,
}: {
  own: Learner;
  calendar: CalendarView;
  publication: Publication | undefined;
}) {
  const [open, setOpen] = useState<'offer' | 'carry' | null>(null);
  const close = () => setOpen(null);
  const look = () => {
    useScreen.getState().chooseLearner(own.id);
    router.push('/calendar');
  };
  return (
    <View role="group" aria-label={calendar.name} className="gap-3 rounded-xl bg-sheet px-4 py-3 shadow-sm">
      <View className="flex-row items-center gap-3">
        <Flag colour={calendar.colour} flag={calendar.flag} size={24} />
        <View className="min-w-0 flex-1">
          <Text kind="lead" heading={2} numberOfLines={2}>
            {calendar.name}
          </Text>
          <Text kind="small">{followersWords(publication)}</Text>
        </View>
      </View>
      {open === 'offer' ? (
        <OfferForm own={own} calendar={calendar} publication={publication} onClose={close} />
      ) : open === 'carry' ? (
        <CarryForm own={own} calendar={calendar} onClose={close} />
      ) : (
        <View className="flex-row flex-wrap gap-2">
          <Button onPress={() => setOpen('offer')} aria-label={`Say who follows ${calendar.name}`}>
            {publication ? 'Change who follows it' : 'Offer it'}
          </Button>
          <Button kind="second" onPress={() => setOpen('carry')}>
            Carry it to another term
          </Button>
          <Button kind="quiet" onPress={look} className="px-2">
            See it in Calendar
          </Button>
        </View>
      )}
    </View>
  );
}

/** `followed by 4 (Juno, Tobias and 2 more), 1 has not answered` */
function followersWords(publication: Publication | undefined): string {
  if (!publication) return 'Nobody follows it yet.';
  const { to, unseen } = publication;
  const names = (state: string) => to.filter((o) => o.state === state).map((o) => firstName(o.name));
  const [taken, open, declined] = [names('taken'), names('open'), names('declined')];
  const count = taken.length + unseen;
  const listed = (all: readonly string[]) =>
    all.length > 4 ? `${all.slice(0, 3).join(', ')} and ${all.length - 3} more` : all.join(', ');
  return [
    count ? `Followed by ${plural(count, 'learner')}${taken.length ? `: ${listed(taken)}` : ''}` : '',
    open.length ? `not answered yet: ${listed(open)}` : '',
    declined.length ? `not wanted: ${listed(declined)}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
