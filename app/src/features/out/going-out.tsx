import type { ShareView } from '@zephyrfield/core/api/share';
import { may } from '@zephyrfield/core/item/access';
import { shareWords } from '@zephyrfield/core/out/share';
import { plural } from '@zephyrfield/core/words/text';
import { longDay, shortWhen } from '@zephyrfield/core/words/when';
import { parseDate } from '@zephyrfield/core/time/civil';
import { instantOf } from '@zephyrfield/core/time/when';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useCalendars, useSession } from '@/data/queries';
import { addShare, changeShare, renewShare, takeBackShare, useShares, type ShareInput } from '@/data/shares';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { FileForm } from './file-form';
import { PaperForm } from './paper-form';
import { ShareAddress } from './share-address';
import { ShareForm } from './share-form';
import { Whole } from './whole';

/** What of a schedule goes out: live links, for who may share it, and one-time files for everybody who sees it. */
export function GoingOut() {
  const { learner } = useLearner()!;
  const personId = useSession().data!.person!.id;
  const mayShare = may({ personId, access: learner.access, isSelf: learner.isSelf }, 'share');
  return (
    <>
      {mayShare ? <LiveLinks key={learner.id} /> : null}
      <Files key={`${learner.id} files`} />
      <OnPaper key={`${learner.id} paper`} />
      <Whole key={`${learner.id} whole`} />
    </>
  );
}

/** What a link was given just now, and is shown once. */
interface Told {
  secret: string;
  page: boolean;
}

function LiveLinks() {
  const { learner } = useLearner()!;
  const shares = useShares(learner.id);
  const [making, setMaking] = useState(false);
  const [told, setTold] = useState<Told | null>(null);
  const add = useMutation({
    mutationFn: (input: ShareInput) => addShare(learner.id, input),
    onSuccess: (secret, { page }) => {
      setTold({ secret, page });
      setMaking(false);
    },
  });
  const count = shares.data?.length ?? 0;
  return (
    <Part title="Live links" aside={count ? plural(count, 'link') : ''}>
      <Text kind="small">
        An address that any calendar program can follow, without an account. It always shows what stands here.
      </Text>
      <ProblemNotice problem={shares.error && problemOf(shares.error)} />
      {told ? (
        <ShareAddress {...told} onClose={() => setTold(null)} />
      ) : making ? (
        <ShareForm
          words="Make the link"
          busy={add.isPending}
          problem={add.error && problemOf(add.error)}
          onGo={(input) => add.mutate(input)}
          onCancel={() => {
            add.reset();
            setMaking(false);
          }}
        />
      ) : (
        <Button className="self-start" onPress={() => setMaking(true)}>
          Make a live link
        </Button>
      )}
      {shares.data?.map((share) => (
        <ShareLine key={share.id} share={share} onTold={setTold} />
      ))}
    </Part>
  );
}

function ShareLine({ share, onTold }: { share: ShareView; onTold(told: Told): void }) {
  const { learner, viewer } = useLearner()!;
  const calendars = useCalendars(learner.id).data ?? [];
  const [open, setOpen] = useState<'form' | 'address' | 'end' | null>(null);
  const close = () => setOpen(null);
  const { id, name, rules, page, paused, until, fetched, lastFetched } = share;
  const change = useMutation({
    mutationFn: (to: Partial<ShareInput> & { paused?: boolean }) => changeShare(learner.id, id, to),
    onSuccess: close,
  });
  const renew = useMutation({
    mutationFn: () => renewShare(learner.id, id),
    onSuccess: (secret) => {
      onTold({ secret, page });
      close();
    },
  });
  const end = useMutation({ mutationFn: () => takeBackShare(learner.id, id) });
  const state = !share.stands
    ? `nothing goes out: ${share.by} may not share this schedule any more`
    : paused
      ? 'paused'
      : '';
  const failure = change.error ?? renew.error ?? end.error;
  return (
    <View role="group" aria-label={name} className="border-b border-dashed border-line py-2">
      <View className="flex-row flex-wrap items-center gap-x-3">
        <View className="min-w-[220px] flex-1">
          <Text kind="strong">{name}</Text>
          <Text kind="small">
            {rules.calendars?.length === 0
              ? 'calendars that are kept from you'
              : shareWords(rules, new Map(calendars.map((c) => [c.id, c.name])))}
          </Text>
          <Text kind="small">
            {[
              state,
              page ? 'with a page' : '',
              until ? `until ${longDay(parseDate(until))}` : '',
              fetched
                ? `fetched ${plural(fetched, 'time')}, last ${shortWhen(instantOf(Date.parse(lastFetched!)), viewer)}`
                : 'not fetched yet',
              `made by ${share.by}`,
            ]
              .filter(Boolean)
              .join(' · ')}
          </Text>
        </View>
        <Button
          kind="quiet"
          className="px-2"
          aria-expanded={open !== null}
          aria-label={`Change ${name}`}
          onPress={() => setOpen(open ? null : 'form')}
        >
          Change
        </Button>
      </View>
      <ProblemNotice problem={failure && problemOf(failure)} />
      {open === 'form' ? (
        <View className="gap-3 pt-2">
          {share.own ? (
            <ShareForm
              share={share}
              words="Save"
              busy={change.isPending}
              problem={null}
              onGo={(input) => change.mutate(input)}
              onCancel={close}
            />
          ) : (
            <Text kind="small">{`Only ${share.by} can change this link. You can pause it or take it back.`}</Text>
          )}
          <View className="flex-row flex-wrap gap-2">
            {share.own || !paused ? (
              <Button kind="second" onPress={() => change.mutate({ paused: !paused })}>
                {paused ? 'Go on with it' : 'Pause it'}
              </Button>
            ) : null}
            {share.own ? (
              <Button kind="second" onPress={() => setOpen('address')}>
                Give it another address
              </Button>
            ) : null}
            <Button kind="second" onPress={() => setOpen('end')}>
              Take it back
            </Button>
          </View>
        </View>
      ) : open === 'address' ? (
        <Sure
          words="The address it has now leads nowhere from then on. Whoever follows it needs the other one."
          yes="Yes, another address"
          busy={renew.isPending}
          onYes={() => renew.mutate()}
          onNo={close}
        />
      ) : open === 'end' ? (
        <Sure
          words="Nothing goes out by it from then on, and its address cannot be brought back."
          yes="Yes, take it back"
          busy={end.isPending}
          onYes={() => end.mutate()}
          onNo={close}
        />
      ) : null}
    </View>
  );
}

function Sure(asked: { words: string; yes: string; busy: boolean; onYes(): void; onNo(): void }) {
  return (
    <View className="gap-2 py-2">
      <Text>{asked.words}</Text>
      <View className="flex-row flex-wrap gap-2">
        <Button busy={asked.busy} onPress={asked.onYes}>
          {asked.yes}
        </Button>
        <Button kind="second" onPress={asked.onNo}>
          No
        </Button>
      </View>
    </View>
  );
}

function OnPaper() {
  const [open, setOpen] = useState(false);
  return (
    <Part title="On paper" aside="">
      <Text kind="small">
        A week or a month to print, with boxes to tick. It can be read in black and white.
      </Text>
      {open ? (
        <PaperForm onClose={() => setOpen(false)} />
      ) : (
        <Button kind="second" className="self-start" onPress={() => setOpen(true)}>
          Print a week or a month
        </Button>
      )}
    </Part>
  );
}

function Files() {
  const [open, setOpen] = useState(false);
  return (
    <Part title="One-time files" aside="">
      <Text kind="small">
        A copy of today: a calendar for another program, or a table for a meeting with the school.
      </Text>
      {open ? (
        <FileForm onClose={() => setOpen(false)} />
      ) : (
        <Button kind="second" className="self-start" onPress={() => setOpen(true)}>
          Make a file
        </Button>
      )}
    </Part>
  );
}
