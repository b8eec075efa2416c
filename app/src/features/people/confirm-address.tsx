import { useMutation } from '@tanstack/react-query';
import { Link } from '@/router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { confirmAddress } from '@/data/auth';
import { problemOf } from '@/data/client';
import { useSession } from '@/data/queries';
import { useTheme } from '@/data/theme';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';

/** The secret stands behind the `#` of the link, so that it is sent to no server and stands in no log. */
const tokenInAddress = () => globalThis.location.hash.slice(1);

/**
 * Where the link in a mail leads that confirms its address. It takes a press, so that a mail program that
 * looks into links does not use it up.
 */
export function ConfirmAddress() {
  const { data: session } = useSession();
  useTheme();
  const [token] = useState(tokenInAddress);
  // It need not stand in the address any longer, nor be gone back to.
  useEffect(
    () => globalThis.history.replaceState(globalThis.history.state, '', globalThis.location.pathname),
    [],
  );
  const confirm = useMutation({ mutationFn: () => confirmAddress(token) });
  const problem = confirm.error ? problemOf(confirm.error) : null;
  const isUsedUp = problem?.status === 410;
  const onward = !session?.person ? 'Sign in' : isUsedUp ? 'Send another link' : 'Go to Today';
  return (
    <View role="main" className="flex-1 bg-paper">
      <View className="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-10">
        <Contours height={90} />
        <Text kind="display" heading={1}>
          Confirm your mail address
        </Text>
        {confirm.isSuccess ? (
          <Notice kind="good" title="Your address is confirmed.">
            From now on Zephyrfield sends you mail where you have asked for it.
          </Notice>
        ) : (
          <>
            <Text className="text-ink2">
              Zephyrfield sends mail only to people who have shown that the address is theirs.
            </Text>
            <ProblemNotice problem={problem} />
            {isUsedUp ? null : (
              <Button
                busy={confirm.isPending}
                disabled={!token}
                onPress={() => confirm.mutate()}
                className="self-start"
              >
                Confirm my address
              </Button>
            )}
            {token ? null : <Text kind="small">The link is incomplete. Copy all of it from the mail.</Text>}
          </>
        )}
        <Link href={isUsedUp ? '/notice-settings' : '/today'} className="min-h-touch py-2">
          <Text kind="label" className="text-lagoon underline">
            {onward}
          </Text>
        </Link>
      </View>
    </View>
  );
}
