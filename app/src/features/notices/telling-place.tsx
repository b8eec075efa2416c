import type { RemindRule } from '@zephyrfield/core/api/remind';
import { Telling } from '@zephyrfield/core/api/remind';
import { DEFAULT_REMINDERS, KIND_WORDS, REMIND_KINDS, ruleWords, type RemindKind, type RemindSet } from '@zephyrfield/core/remind/rules';
import { NEWS, NEWS_WORDS, WAYS, WAY_WORDS, type BriefPart, type Matrix, type News, type Way } from '@zephyrfield/core/remind/telling';
import { away, minuteWords, plural } from '@zephyrfield/core/view/words';
import { useQueryClient } from '@tanstack/react-query';
import { Link } from 'expo-router';
import Check from 'lucide-react-native/icons/check';
import { useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { askBrowser, browserState } from '@/data/browser-notices';
import { call, problemOf } from '@/data/client';
import { useDeeds } from '@/data/deeds';
import { useLearner, useSettings } from '@/data/learner';
import { changeTelling, tryMail, useTelling } from '@/data/notices';
import { useNow } from '@/data/now';
import { keys, useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choice, Field } from '@/ui/field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { ReminderRules } from '@/ui/reminder-rules';
import { Text } from '@/ui/text';
import { Example } from './example';

const clock = (minute: number) => `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
const minuteOf = (text: string) => (/^\d\d:\d\d$/.test(text) ? Number(text.slice(0, 2)) * 60 + Number(text.slice(3)) : null);
const BRIEF_WORDS: Record<BriefPart, string> = { morning: 'Each morning', evening: 'Each evening', week: 'On Sundays, the week' };
const USUAL: Record<BriefPart, number> = { morning: 7 * 60, evening: 17 * 60, week: 17 * 60 };

/** Who is told what, when, and by which way. Each change is saved as it is made, and says what it means. */
export function TellingPlace() {
  const view = useTelling();
  if (!view.data) {
    return (
      <View className="px-4 pt-6">
        {view.error ? <ProblemNotice problem={problemOf(view.error)} /> : <View role="status" aria-label="Loading what you are told" className="h-24 rounded-xl bg-sheet" />}
      </View>
    );
  }
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[760px] gap-6 px-4 pb-10 pt-3">
      <View>
        <Text kind="display" heading={1}>
          What I am told
        </Text>
        <Text className="text-ink2">
          All of it stands in{' '}
          <Link href="/notices" className="font-bold text-lagoon underline">
            Notices
          </Link>
          .
        </Text>
      </View>
      <Example telling={view.data.telling} />
      <Ways telling={view.data.telling} mailReady={view.data.mail.ready} />
      <Mail mail={view.data.mail} />
      <QuietHours telling={view.data.telling} />
      <Briefs telling={view.data.telling} />
      <Reminders />
      <Muted telling={view.data.telling} />
    </ScrollView>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <View role="group" aria-label={title} className="gap-3">
      <Text kind="title" heading={2}>
        {title}
      </Text>
      {children}
    </View>
  );
}

/** Which news by which ways; for all learners, or otherwise for one of them. */
function Ways({ telling, mailReady }: { telling: Telling; mailReady: boolean }) {
  const { learners } = useLearner()!;
  const [of, setOf] = useState('');
  const [browser, setBrowser] = useState(browserState());
  const matrix = (of && telling.learners[of]) || telling.all;
  const put = (next: Matrix) => void changeTelling(of ? { ...telling, learners: { ...telling.learners, [of]: next } } : { ...telling, all: next });
  const toggle = (news: News, way: Way) => {
    const ways = matrix[news].includes(way) ? matrix[news].filter((w) => w !== way) : [...matrix[news], way];
    put({ ...matrix, [news]: ways });
    if (way === 'browser' && ways.includes('browser') && browser === 'unasked') void askBrowser().then(setBrowser);
  };
  const likeAll = () => {
    const { [of]: _own, ...others } = telling.learners;
    void changeTelling({ ...telling, learners: others });
  };
  return (
    <Part title="What, and by which way">
      {learners.length > 1 ? (
        <View className="gap-1">
          <Choice label="Of" value={of} onChange={(e) => setOf(e.currentTarget.value)} options={[{ value: '', words: 'everybody' }, ...learners.map((l) => ({ value: l.id, words: `${l.name}${telling.learners[l.id] ? ', otherwise' : ''}` }))]} />
          {of && telling.learners[of] ? (
            <Button kind="quiet" onPress={likeAll} className="-ml-4 self-start">
              As for everybody
            </Button>
          ) : null}
        </View>
      ) : null}
      <View role="table" aria-label="What you are told, and by which way" className="rounded-xl bg-sheet px-2 py-1 shadow-sm">
        <View role="row" className="flex-row items-end">
          <View role="columnheader" className="min-w-0 flex-1">
            <Text className="sr-only">News</Text>
          </View>
          {WAYS.map((way) => (
            <View key={way} role="columnheader" className="w-[76px] items-center px-1 py-1">
              <Text kind="small" className="text-center">
                {WAY_WORDS[way]}
              </Text>
            </View>
          ))}
        </View>
        {NEWS.map((news) => (
          <View key={news} role="row" className="flex-row items-center border-t border-line">
            <View role="rowheader" className="min-w-0 flex-1 px-2 py-1">
              <Text>{NEWS_WORDS[news]}</Text>
            </View>
            {WAYS.map((way) => {
              const on = matrix[news].includes(way);
              const off = way === 'mail' && !mailReady;
              return (
                <View key={way} role="cell" className="w-[76px] items-center">
                  <Pressable
                    role="checkbox"
                    aria-checked={on}
                    aria-label={`${NEWS_WORDS[news]} ${WAY_WORDS[way]}`}
                    disabled={off}
                    onPress={() => toggle(news, way)}
                    className={`min-h-touch min-w-touch items-center justify-center rounded-lg hover:bg-lagoon-wash ${off ? 'opacity-50' : ''}`}
                  >
                    <View className={`h-6 w-6 items-center justify-center rounded border-2 ${on ? 'border-lagoon bg-lagoon' : 'border-ink2'}`}>{on ? <Check size={16} strokeWidth={3} color="var(--lagoon-on)" aria-hidden /> : null}</View>
                  </Pressable>
                </View>
              );
            })}
          </View>
        ))}
      </View>
      {browser === 'refused' ? (
        <Notice kind="warning" title="This browser has been told to refuse.">
          Allow notifications for this address in the browser’s own settings, and come back. Until then all of it stands in the app.
        </Notice>
      ) : browser === 'cannot' ? (
        <Text kind="small">This browser cannot tell you anything by itself; the app and mail can.</Text>
      ) : browser === 'unasked' ? (
        <Button kind="second" className="self-start" onPress={() => void askBrowser().then(setBrowser)}>
          Let this browser tell me
        </Button>
      ) : (
        <Text kind="small">This browser tells you while Zephyrfield is open in it, even behind other windows.</Text>
      )}
    </Part>
  ); // prettier-ignore
}

function Mail({ mail }: { mail: NonNullable<ReturnType<typeof useTelling>['data']>['mail'] }) {
  const now = useNow();
  return (
    <Part title="Mail">
      {mail.ready ? (
        <>
          <Text>
            Goes to <Text kind="strong">{mail.address}</Text>
            {mail.waiting ? `; ${plural(mail.waiting, 'notice')} wait to be sent.` : '.'}
          </Text>
          {mail.trouble ? (
            <Notice kind="trouble" title={`${mail.trouble.title} Since ${away(Date.parse(mail.trouble.since), now)}.`}>
              {mail.trouble.remedy}
            </Notice>
          ) : null}
          <Button kind="second" onPress={() => void tryMail()} className="self-start">
            Send me a mail to try
          </Button>
        </>
      ) : (
        <Text className="text-ink2">No mail server is set up here, so nothing goes out by mail.</Text>
      )}
    </Part>
  );
}

function QuietHours({ telling }: { telling: Telling }) {
  const { hours } = useSettings();
  const { quiet } = telling;
  const [wrong, setWrong] = useState('');
  const put = (next: Telling['quiet']) => {
    const result = Telling.shape.quiet.safeParse(next);
    setWrong(result.success ? '' : (result.error.issues[0]?.message ?? 'That is not right.'));
    if (result.success) void changeTelling({ ...telling, quiet: next });
  };
  const edge = (name: 'from' | 'to', text: string) => {
    const minute = minuteOf(text);
    if (minute !== null && quiet) put({ ...quiet, [name]: minute });
  };
  return (
    <Part title="Quiet hours">
      {quiet ? (
        <>
          <View className="flex-row gap-3">
            <View className="flex-1">
              <Field key={`from ${quiet.from}`} label="From" type="time" defaultValue={clock(quiet.from)} onBlur={(e) => edge('from', e.currentTarget.value)} />
            </View>
            <View className="flex-1">
              <Field key={`to ${quiet.to}`} label="To" type="time" defaultValue={clock(quiet.to)} error={wrong || undefined} onBlur={(e) => edge('to', e.currentTarget.value)} />
            </View>
          </View>
          <Text kind="small">{`From ${minuteWords(quiet.from, hours)} to ${minuteWords(quiet.to, hours)} nothing is sent. What comes meanwhile is sent together afterwards; what would be of no use by then stands in Notices alone.`}</Text>
        </>
      ) : (
        <Text className="text-ink2">You are told at any hour.</Text>
      )}
      <Button kind="quiet" onPress={() => put(quiet ? null : { from: 22 * 60, to: 7 * 60 })} className="-ml-4 self-start">
        {quiet ? 'No quiet hours' : 'Keep quiet at night'}
      </Button>
    </Part>
  );
}

function Briefs({ telling }: { telling: Telling }) {
  return (
    <Part title="The brief of the day">
      {(Object.keys(BRIEF_WORDS) as BriefPart[]).map((part) => {
        const minute = telling.briefs[part];
        const put = (next: number | null) => void changeTelling({ ...telling, briefs: { ...telling.briefs, [part]: next } });
        return (
          <View key={part} className="flex-row items-center gap-3">
            <Pressable role="checkbox" aria-checked={minute !== null} onPress={() => put(minute === null ? USUAL[part] : null)} className="min-h-touch flex-1 flex-row items-center gap-3">
              <View className={`h-6 w-6 items-center justify-center rounded border-2 ${minute !== null ? 'border-lagoon bg-lagoon' : 'border-ink2'}`}>
                {minute !== null ? <Check size={16} strokeWidth={3} color="var(--lagoon-on)" aria-hidden /> : null}
              </View>
              <Text>{BRIEF_WORDS[part]}</Text>
            </Pressable>
            {minute === null ? null : (
              <View className="w-[150px]">
                <Field key={minute} label="at" type="time" aria-label={`${BRIEF_WORDS[part]} at`} defaultValue={clock(minute)} onBlur={(e) => minuteOf(e.currentTarget.value) !== null && put(minuteOf(e.currentTarget.value))} />
              </View>
            )}
          </View>
        );
      })}
    </Part>
  ); // prettier-ignore
}

/** When to be reminded of what: for the whole schedule; a calendar or an item may have it otherwise. */
function Reminders() {
  const { learner } = useLearner()!;
  const { hours } = useSettings();
  const client = useQueryClient();
  const [kind, setKind] = useState<RemindKind | null>(null);
  const own = learner.reminders;
  const rulesOf = (k: RemindKind): RemindRule[] => own?.[k] ?? [...DEFAULT_REMINDERS[k]];
  const save = async (reminders: Partial<RemindSet> | null, words: string) => {
    const put = (body: Partial<RemindSet> | null) =>
      call('learnerReminders', { params: { learnerId: learner.id }, body: { reminders: body } })
        .then(() => Promise.all([client.invalidateQueries({ queryKey: keys.session }), client.invalidateQueries({ queryKey: ['item'] })]))
        .then(() => {});
    try {
      await put(reminders);
      useDeeds.getState().did({ words, undo: () => put(own) });
    } catch (error) {
      useDeeds.getState().failed(error);
    }
  };
  return (
    <Part title={`Reminders for ${learner.name.split(' ')[0]}`}>
      <Text kind="small">They move when the date moves, and finishing silences them. A calendar may have its own (in Gather), and so may an item.</Text>
      {REMIND_KINDS.map((k) => (
        <View key={k} className="rounded-xl bg-sheet px-3 py-1 shadow-sm">
          <Pressable role="button" aria-expanded={kind === k} disabled={learner.access !== 'edit'} onPress={() => setKind(kind === k ? null : k)} className="min-h-touch justify-center">
            <Text kind="strong">{KIND_WORDS[k]}</Text>
            <Text kind="small">{rulesOf(k).map((r) => ruleWords(r, hours)).join(', ') || 'no reminder'}</Text>
          </Pressable>
          {kind === k ? <ReminderRules label={`Reminders: ${KIND_WORDS[k]}`} rules={rulesOf(k)} hours={hours} onChange={(rules) => void save({ ...own, [k]: rules }, `${KIND_WORDS[k]}: reminders changed`)} /> : null}
        </View>
      ))}
      {own ? (
        <Button kind="quiet" onPress={() => void save(null, 'Reminders as they were to begin with')} className="-ml-4 self-start">
          As it was to begin with
        </Button>
      ) : null}
    </Part>
  ); // prettier-ignore
}

function Muted({ telling }: { telling: Telling }) {
  const { learner } = useLearner()!;
  const calendars = useCalendars(learner.id).data ?? [];
  const { items, calendars: muted } = telling.muted;
  if (!items.length && !muted.length) return null;
  return (
    <Part title="Muted">
      {muted.map((id) => (
        <View key={id} className="flex-row items-center gap-2">
          <Text className="flex-1">All of {calendars.find((c) => c.id === id)?.name ?? 'another calendar'}</Text>
          <Button kind="quiet" onPress={() => void changeTelling({ ...telling, muted: { items, calendars: muted.filter((m) => m !== id) } }, 'Told of it again')}>
            Tell me again
          </Button>
        </View>
      ))}
      {items.length ? (
        <View className="flex-row items-center gap-2">
          <Text className="flex-1">{plural(items.length, 'single item')}</Text>
          <Button kind="quiet" onPress={() => void changeTelling({ ...telling, muted: { items: [], calendars: muted } }, 'Told of them again')}>
            Tell me of them again
          </Button>
        </View>
      ) : null}
    </Part>
  );
}
