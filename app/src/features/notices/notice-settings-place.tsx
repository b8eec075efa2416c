import type { NoticeSettings } from '@zephyrfield/core/api/notify';
import {
  NOTICE_KINDS,
  NOTICE_KIND_WORDS,
  CHANNELS,
  CHANNEL_WORDS,
  type ChannelsByKind,
  type NoticeKind,
  type Channel,
} from '@zephyrfield/core/notify/settings';
import { away } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { Link } from '@/router';
import { useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { askBrowser, browserState } from '@/data/browser-notices';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { changeNoticeSettings, sendConfirmation, tryMail, useNoticeSettings } from '@/data/notices';
import { useNow } from '@/data/now';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { Example } from './example';
import { Sheets, QuietHours } from './hours';
import { Box } from '@/ui/box';
import { Part } from './part';
import { Muted, Reminders } from './reminders';

/** Who is told what, when, and by which way. Each change is saved as it is made, and says what it means. */
export function NoticeSettingsPlace() {
  const view = useNoticeSettings();
  if (!view.data) {
    return (
      <View className="px-4 pt-6">
        {view.error ? (
          <ProblemNotice problem={problemOf(view.error)} />
        ) : (
          <View role="status" aria-label="Loading what you are told" className="h-24 rounded-xl bg-sheet" />
        )}
      </View>
    );
  }
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-6 px-4 pb-10 pt-3"
    >
      <View>
        <PlaceHead title="Reminders and mail" />
        <Text className="text-ink2">
          All of it stands in{' '}
          <Link href="/news" className="font-bold text-lagoon underline">
            News
          </Link>
          .
        </Text>
      </View>
      <Example noticeSettings={view.data.noticeSettings} />
      <Channels noticeSettings={view.data.noticeSettings} mailReady={view.data.mail.ready} />
      <Mail mail={view.data.mail} />
      <QuietHours noticeSettings={view.data.noticeSettings} />
      <Sheets noticeSettings={view.data.noticeSettings} />
      <Reminders />
      <Muted noticeSettings={view.data.noticeSettings} />
    </ScrollView>
  );
}

/** Which news by which ways; for all learners, or otherwise for one of them. */
function Channels({ noticeSettings, mailReady }: { noticeSettings: NoticeSettings; mailReady: boolean }) {
  const { learners } = useLearner()!;
  const [of, setOf] = useState('');
  const [browser, setBrowser] = useState(browserState());
  const matrix = (of && noticeSettings.learners[of]) || noticeSettings.all;
  const put = (next: ChannelsByKind) =>
    void changeNoticeSettings(
      of
        ? { ...noticeSettings, learners: { ...noticeSettings.learners, [of]: next } }
        : { ...noticeSettings, all: next },
    );
  const toggle = (kind: NoticeKind, channel: Channel) => {
    const channels = matrix[kind].includes(channel)
      ? matrix[kind].filter((w) => w !== channel)
      : [...matrix[kind], channel];
    put({ ...matrix, [kind]: channels });
    if (channel === 'browser' && channels.includes('browser') && browser === 'unasked')
      void askBrowser().then(setBrowser);
  };
  const likeAll = () => {
    const { [of]: _own, ...others } = noticeSettings.learners;
    void changeNoticeSettings({ ...noticeSettings, learners: others });
  };
  return (
    <Part title="What you are told, and how">
      {learners.length > 1 ? (
        <View className="gap-1">
          <Choice
            label="For"
            value={of}
            onChange={(e) => setOf(e.currentTarget.value)}
            options={[
              { value: '', words: 'everybody' },
              ...learners.map((l) => ({
                value: l.id,
                words: `${l.name}${noticeSettings.learners[l.id] ? ' (changed)' : ''}`,
              })),
            ]}
          />
          {of && noticeSettings.learners[of] ? (
            <Button kind="quiet" onPress={likeAll} className="-ml-4 self-start">
              Same as for all learners
            </Button>
          ) : null}
        </View>
      ) : null}
      <View
        role="table"
        aria-label="What you are told, and how"
        className="rounded-xl bg-sheet px-2 py-1 shadow-sm"
      >
        <View role="row" className="flex-row items-end">
          <View role="columnheader" className="min-w-0 flex-1">
            <Text className="sr-only">Notice</Text>
          </View>
          {CHANNELS.map((channel) => (
            <View key={channel} role="columnheader" className="w-[76px] items-center px-1 py-1">
              <Text kind="small" className="text-center">
                {CHANNEL_WORDS[channel]}
              </Text>
            </View>
          ))}
        </View>
        {NOTICE_KINDS.map((kind) => (
          <View key={kind} role="row" className="flex-row items-center border-t border-line">
            <View role="rowheader" className="min-w-0 flex-1 px-2 py-1">
              <Text>{NOTICE_KIND_WORDS[kind]}</Text>
            </View>
            {CHANNELS.map((channel) => {
              const on = matrix[kind].includes(channel);
              const off = channel === 'mail' && !mailReady;
              return (
                <View key={channel} role="cell" className="w-[76px] items-center">
                  <Pressable
                    role="checkbox"
                    aria-checked={on}
                    aria-label={`${NOTICE_KIND_WORDS[kind]} ${CHANNEL_WORDS[channel]}`}
                    disabled={off}
                    onPress={() => toggle(kind, channel)}
                    className={`min-h-touch min-w-touch items-center justify-center rounded-lg hover:bg-lagoon-wash ${off ? 'opacity-50' : ''}`}
                  >
                    <Box on={on} />
                  </Pressable>
                </View>
              );
            })}
          </View>
        ))}
      </View>
      {browser === 'refused' ? (
        <Notice kind="warning" title="This browser blocks notifications.">
          Allow notifications for this site in the browser’s settings, then come back. Until then you find
          everything in the app.
        </Notice>
      ) : browser === 'cannot' ? (
        <Text kind="small">This browser cannot show notifications. Use the app or mail instead.</Text>
      ) : browser === 'unasked' ? (
        <Button kind="second" className="self-start" onPress={() => void askBrowser().then(setBrowser)}>
          Allow notifications
        </Button>
      ) : (
        <Text kind="small">Notifications appear while Zephyrfield is open, even behind other windows.</Text>
      )}
    </Part>
  );
}

function Mail({ mail }: { mail: NonNullable<ReturnType<typeof useNoticeSettings>['data']>['mail'] }) {
  const now = useNow();
  if (!mail.ready)
    return (
      <Part title="Mail">
        <Text className="text-ink2">No mail server is set up here, so nothing goes out by mail.</Text>
      </Part>
    );
  if (!mail.confirmed)
    return (
      <Part title="Mail">
        <Notice kind="warning" title={`Nothing is sent to ${mail.address} yet.`}>
          First open the link in the mail we sent there, so that we know the address is yours. No mail? Look
          in your spam folder, or send the link again.
        </Notice>
        <Button kind="second" onPress={() => void sendConfirmation()} className="self-start">
          Send the link again
        </Button>
      </Part>
    );
  return (
    <Part title="Mail">
      <Text>
        Goes to <Text kind="strong">{mail.address}</Text>
        {mail.waiting ? `; ${plural(mail.waiting, 'notice')} wait to be sent.` : '.'}
      </Text>
      {mail.trouble ? (
        <Notice
          kind="trouble"
          title={`${mail.trouble.title} Since ${away(Date.parse(mail.trouble.since), now)}.`}
        >
          {mail.trouble.remedy}
        </Notice>
      ) : null}
      <Button kind="second" onPress={() => void tryMail()} className="self-start">
        Send a test mail
      </Button>
    </Part>
  );
}
