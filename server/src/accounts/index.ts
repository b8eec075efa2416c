import { paths } from '@zephyrfield/core/api/paths';
import { DAY } from '@zephyrfield/core/time/civil';
import { symmetricDecrypt } from 'better-auth/crypto';
import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { accountService } from './account-service.ts';
import { accountStore } from './account-store.ts';
import { SESSION_DAYS, makeAuth } from './auth.ts';
import {
  composeAttacked,
  composeBeginning,
  composeChanged,
  composeConfirmation,
  composeKnown,
  composeLeaving,
  composeMove,
  composeMoved,
  composeReset,
} from './mails.ts';
import { ownAccount } from './own-account.ts';
import { ownersIn } from './owners.ts';
import { passkeys } from './passkeys.ts';
import { mountAccounts, mountOwnAccount, mountPeople } from './routes.ts';
import { secondStep } from './second-step.ts';
import { newSetUpWord } from './set-up-word.ts';
import { signUpService, type UsedInvitation } from './sign-up.ts';

/** Routes by which a password, a code or a secret could be tried out. */
const GUESSABLE = [
  paths.signIn,
  paths.signUp,
  paths.beginAccount,
  paths.changePassword,
  paths.forgotPassword,
  paths.lookAtReset,
  paths.resetPassword,
  paths.leaveForGood,
  paths.takeSecondStep,
  paths.beginPasskey,
  paths.passkeyChallenge,
  paths.passkeySignIn,
  paths.confirmSecondStep,
];

/** Accounts: signing up and in, passwords, second steps, passkeys, sessions, leaving for good. */
export function accountsFeature(
  ground: Ground,
  crew: { use(secret: string, email: string): UsedInvitation | null },
) {
  const {
    config,
    db,
    clock,
    wallClock,
    secrets,
    people,
    limits: attempts,
    hub,
    streams,
    isDemo,
    log,
  } = ground;
  const { base, sendOne, changed } = ground;
  const auth = makeAuth(db, { secret: secrets.sessionSecret, publicUrl: config.PUBLIC_URL });
  const setUpWord = isDemo || people.count() > 0 ? null : newSetUpWord();
  const addressChanged = (personId: string) => hub.tell('addressChanged', personId);
  const rows = accountStore(db);
  const account = ownAccount({
    store: rows,
    people,
    attempts,
    clock,
    mails: sendOne && {
      reset: (to, token) => sendOne(to, composeReset(token, base())),
      move: (to, token) => sendOne(to, composeMove(token, base())),
      moved: (to) => sendOne(to, composeMoved(base())),
      leaving: (to, at) => sendOne(to, composeLeaving(at, base())),
      attacked: (to) => sendOne(to, composeAttacked(base())),
      changed: (to, change) => sendOne(to, composeChanged(change, base())),
    },
    endStreams: streams.end,
    addressChanged,
    changed,
    log,
  });
  const { requirePassword, came, tellOfChange } = account;
  const digest = (text: string) => secrets.digest(`account ${text}`).slice(0, 16);
  const accounts = accountService({
    auth,
    people,
    attempts,
    clock,
    digest,
    sendLink: sendOne && ((to, token) => sendOne(to, composeConfirmation(token, base()))),
    endStreams: streams.end,
    confirmed: addressChanged,
    attacked: account.attacked,
    move: account.move,
    came,
    tellOfChange,
    log,
  });
  const signingUp = signUpService({
    auth,
    people,
    attempts,
    clock,
    openSignUp: config.OPEN_SIGN_UP,
    setUpWord,
    asksForWord: !isDemo,
    digest,
    mails: sendOne && {
      begin: (to, token) => sendOne(to, composeBeginning(token, base())),
      known: (to) => sendOne(to, composeKnown(base())),
    },
    sendLink: accounts.sendFirstConfirmation,
    takeInvitation: crew.use,
    log,
  });
  const keys = passkeys({ auth, requirePassword, came, tellOfChange });
  const step = secondStep({
    auth,
    attempts,
    requirePassword,
    came,
    tellOfChange,
    secretOf: async (personId) => {
      const data = rows.sealedSecret(personId);
      if (data === undefined) return null;
      return Buffer.from(await symmetricDecrypt({ key: secrets.sessionSecret, data }));
    },
    takeStep: rows.takeStep,
    endByToken: rows.endByToken,
    now: wallClock.now,
  });
  const endOldSessions = () => {
    const now = wallClock.now();
    people.endSessionsBefore(new Date(now), new Date(now - SESSION_DAYS.most * DAY));
  };
  const feature: Feature = {
    mount(mount) {
      mountAccounts(mount, accounts, signingUp);
      mountOwnAccount(mount, account, step, keys);
      mountPeople(mount, {
        people,
        clock,
        demo: isDemo,
        openSignUp: config.OPEN_SIGN_UP,
        changed,
        settingsChanged: (personId) => hub.tell('listenerChanged', personId),
      });
    },
    owners: ownersIn(db),
    guessable: GUESSABLE,
    hourly: [account.tidy, () => people.forgetBeginnings(clock.now()), endOldSessions],
  };
  return { auth, ownAccount: account, setUpWord, feature };
}
