import { ACCESS_WORDS } from '@zephyrfield/core/item/crew';
import type { Access } from '@zephyrfield/core/item/access';
import { LAGOON, escape, frame, type Mail } from './compose.ts';

// Mails about accounts and crews. Each may go to a stranger.

/** A mail of a few words and one link. */
function withLink(subject: string, words: string, link: string, press: string, ignore: string): Mail {
  return {
    subject,
    text: `${words}\n\n${link}\n\n${ignore}\n`,
    html: frame(
      `<p>${escape(words)}</p><p><a style="color:${LAGOON};font-weight:bold" href="${escape(link)}">${escape(press)}</a></p>`,
      ignore,
    ),
  };
}

/** The mail that confirms an address. It says nothing that whoever made the account has typed. */
export const composeConfirmation = (token: string, base: string): Mail =>
  withLink(
    'Confirm your mail address',
    'Open this link to have Zephyrfield send mail to this address. It is good once, for an hour.',
    `${base}/confirm#${token}`,
    'Confirm my address',
    'If you did not make an account with Zephyrfield, there is nothing to do: no more mail will come.',
  );

/** Names fit for a mail to a stranger: short, on one line, and nothing that a mail program would make a link of. */
const plainName = (name: string) =>
  name
    .replace(/[^\p{L}\p{M}\p{N}' -]+/gu, ' ')
    .trim()
    .slice(0, 60);

/** The mail that invites somebody into one or several crews. */
export function composeInvitation(
  secret: string,
  { by, learners, access }: { by: string; learners: string[]; access: Access },
  base: string,
): Mail {
  const names = learners.map(plainName).join(', ');
  return withLink(
    `${plainName(by)} invites you to a school schedule`,
    `${plainName(by)} invites you to the schedule of ${names}. You will be able to ${ACCESS_WORDS[access]}.`,
    `${base}/join#${secret}`,
    'Look at the invitation',
    'If you do not know who this is, there is nothing to do: nobody learns that it reached you.',
  );
}
