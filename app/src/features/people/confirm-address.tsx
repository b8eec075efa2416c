import { useMutation } from '@tanstack/react-query';
import { Link } from '@/router';
import { confirmAddress } from '@/data/auth';
import { problemOf } from '@/data/client';
import { useSession } from '@/data/queries';
import { Button } from '@/ui/button';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { LonePage } from './lone-page';
import { useSecret } from './secret';

/**
 * Where the link in a mail leads that confirms its address. It takes a press, so that a mail program that
 * looks into links does not use it up.
 */
export function ConfirmAddress() {
  const { data: session } = useSession();
  const token = useSecret();
  const confirm = useMutation({ mutationFn: () => confirmAddress(token) });
  const problem = confirm.error ? problemOf(confirm.error) : null;
  const isUsedUp = problem?.status === 410;
  const onward = !session?.person ? 'Sign in' : isUsedUp ? 'Send another link' : 'Go to Today';
  return (
    <LonePage title="Confirm your mail address">
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
    </LonePage>
  );
}
