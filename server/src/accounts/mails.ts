import { DAY } from '@zephyrfield/core/time/civil';
import { longDay } from '@zephyrfield/core/words/when';
import { ACCESS_WORDS } from '@zephyrfield/core/item/crew';
import type { Access } from '@zephyrfield/core/item/access';
import { LAGOON, escape, frame, type Mail } from '../mail/frame.ts';

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

/** The mail whose link makes an account. It says nothing that whoever asked for it has typed. */
export const composeBeginning = (token: string, base: string): Mail =>
  withLink(
    'Begin your account',
    'Open this link to make your Zephyrfield account. It is good once, for an hour.',
    `${base}/new-account#${token}`,
    'Make my account',
    'If you did not ask for this, there is nothing to do: no account is made.',
  );

/** Tells somebody who has an account that it was asked for once more. */
export const composeKnown = (base: string): Mail =>
  withLink(
    'You have an account already',
    'Somebody, perhaps you, asked for a Zephyrfield account with this mail address. You have one. ' +
      'If you forgot your password, set a new one.',
    `${base}/forgotten`,
    'Set a new password',
    'If it was not you, there is nothing to do: they have learnt nothing.',
  );

/** Names fit for a mail to a stranger: short, on one line, and nothing that a mail program would make a link of. */
const plainName = (name: string) =>
  name
    .replace(/[^\p{L}\p{M}\p{N}' -]+/gu, ' ')
    .trim()
    .slice(0, 40);

/** Schedules that a mail to a stranger names. */
const MOST_NAMED = 4;

/** The mail that invites somebody into one or several crews. */
export function composeInvitation(
  secret: string,
  { by, learners, access }: { by: string; learners: string[]; access: Access },
  base: string,
): Mail {
  const named = learners.slice(0, MOST_NAMED).map(plainName).join(', ');
  const names = learners.length > MOST_NAMED ? `${named} and others` : named;
  return withLink(
    `${plainName(by)} invites you to a school schedule`,
    `${plainName(by)} invites you to the schedule of ${names}. You will be able to ${ACCESS_WORDS[access]}.`,
    `${base}/join#${secret}`,
    'Look at the invitation',
    'If you do not know who this is, there is nothing to do: nobody learns that it reached you.',
  );
}

/** The mail by which a forgotten password is set anew. */
export const composeReset = (token: string, base: string): Mail =>
  withLink(
    'Set a new password',
    'Open this link to choose a new password for Zephyrfield. It is good once, for an hour, and signs you out everywhere.',
    `${base}/reset#${token}`,
    'Choose a new password',
    'If you did not ask for this, there is nothing to do: your password stays as it is.',
  );

/** The mail that makes an address somebody’s. */
export const composeMove = (token: string, base: string): Mail =>
  withLink(
    'Confirm your new mail address',
    'Open this link to have this address be the one of your Zephyrfield account. It is good once, for an hour.',
    `${base}/confirm#${token}`,
    'This is my address',
    'If you did not ask for this, there is nothing to do: no more mail will come.',
  );

const NOT_YOU = 'If that was not you, set a new password at once.';

/** Changes to how an account is reached, of which its confirmed address is told. */
const CHANGES = {
  password: [
    'Your password was changed',
    'Your Zephyrfield password was changed. All other sessions have ended.',
  ],
  reset: [
    'Your password was set anew',
    'Your Zephyrfield password was set anew by a link. All sessions have ended.',
  ],
  passkeyAdded: [
    'A passkey was added',
    'A passkey was added to your Zephyrfield account. It signs in without your password.',
  ],
  passkeyRemoved: ['A passkey was removed', 'A passkey was removed from your Zephyrfield account.'],
  secondStepOn: [
    'A second step was added',
    'Signing in to your Zephyrfield account asks for a second step from now on.',
  ],
  secondStepOff: [
    'The second step was removed',
    'Signing in to your Zephyrfield account no longer asks for a second step.',
  ],
  addressAsked: [
    'A new mail address was asked for',
    'Somebody who is signed in asked to change the mail address of your Zephyrfield account.',
  ],
} as const;
export type AccountChange = keyof typeof CHANGES;

/** Tells an account’s owner of a change to how it is reached. */
export function composeChanged(change: AccountChange, base: string): Mail {
  const [subject, words] = CHANGES[change];
  const ignore = 'If it was you, there is nothing to do.';
  return withLink(subject, `${words} ${NOT_YOU}`, `${base}/forgotten`, 'Set a new password', ignore);
}

/** Tells a former address that the account has another one now. */
export const composeMoved = (base: string): Mail =>
  withLink(
    'Your mail address was changed',
    `Your Zephyrfield account has another mail address from now on. ${NOT_YOU}`,
    `${base}/forgotten`,
    'Set a new password',
    'If it was you, there is nothing to do.',
  );

/** Tells that an account is to be deleted, and how that is taken back. @param at an instant in milliseconds */
export const composeLeaving = (at: number, base: string): Mail =>
  withLink(
    'Your account will be deleted',
    `Your Zephyrfield account will be deleted on ${longDay(Math.floor(at / DAY))}. To keep it, sign in before then. ${NOT_YOU}`,
    `${base}/today`,
    'Sign in',
    'If you want it to go, there is nothing to do.',
  );

/** Tells an account’s owner that somebody tries passwords. */
export const composeAttacked = (base: string): Mail =>
  withLink(
    'Many wrong passwords for your account',
    'Somebody has typed many wrong passwords for your Zephyrfield account. They did not get in, and further tries are slowed down.',
    `${base}/forgotten`,
    'Set a new password',
    'If it was you, there is nothing to do.',
  );
