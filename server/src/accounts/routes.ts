import { randomUUID } from 'node:crypto';
import { routes } from '@zephyrfield/core/api/routes';
import { keyedId } from '../db/ids.ts';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { refuseUnlessVersion, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import { noteCame } from './auth.ts';
import type { OwnAccount } from './own-account.ts';
import type { Passkeys } from './passkeys.ts';
import type { SecondStep } from './second-step.ts';
import type { AccountService } from './account-service.ts';
import type { SignUpService } from './sign-up.ts';
import type { PeopleStore } from '../people/store.ts';
import { sessionView } from '../people/views.ts';

const ok = { ok: true as const };

export function mountAccounts(mount: Mount, accounts: AccountService, signingUp: SignUpService): void {
  mount.open(routes.signUp, async ({ body, req }) => ({ waits: await signingUp.signUp(body, req) }));
  mount.open(routes.beginAccount, async ({ body, req }) => {
    await signingUp.begin(body, req);
    return ok;
  });
  mount.open(routes.signIn, ({ body, req }) => accounts.signIn(body, req));
  mount.open(routes.signOut, async ({ caller, req }) => {
    await accounts.signOut(caller, req);
    return ok;
  });
  mount(routes.changePassword, async ({ caller, body, req }) => {
    await accounts.changePassword(caller, body, req);
    return ok;
  });
  mount(routes.sendConfirmation, async ({ caller }) => {
    await accounts.sendConfirmation(caller.personId);
    return ok;
  });
  mount.open(routes.confirmAddress, ({ body }) => {
    accounts.confirm(body.token);
    return ok;
  });
}

/** Gives what somebody sees and changes of their own account. */
export function mountOwnAccount(mount: Mount, account: OwnAccount, step: SecondStep, keys: Passkeys): void {
  mount(routes.account, ({ caller }) => account.view(caller));
  mount(routes.endSession, ({ caller, params }) => {
    account.endSession(caller.personId, params.id);
    return ok;
  });
  mount(routes.endOtherSessions, ({ caller }) => {
    account.endOthers(caller);
    return ok;
  });
  mount(routes.changeName, ({ caller, body }) => {
    account.setName(caller.personId, body.name);
    return ok;
  });
  mount(routes.changeEmail, async ({ caller, body, req }) => ({
    waits: await account.setEmail(caller.personId, body.email, body.password, req.ip ?? ''),
  }));
  mount.open(routes.forgotPassword, async ({ body, req }) => {
    await account.forgot(body.email, req.ip ?? '');
    return ok;
  });
  mount.open(routes.lookAtReset, ({ body }) => account.lookAtReset(body.token));
  mount.open(routes.resetPassword, async ({ body, req }) => {
    noteCame(req, await account.reset(body));
    return ok;
  });
  mount(routes.leaveForGood, async ({ caller, body, req }) => ({
    at: new Date(await account.leave(caller.personId, body.password, req.ip ?? '')).toISOString(),
  }));
  mount.stream(routes.accountArchive, ({ caller, res }) => {
    res.set({
      'Cache-Control': 'no-store',
      'Content-Disposition': 'attachment; filename="zephyrfield-account.json"',
    });
    res.type('json').send(JSON.stringify(account.everything(caller.personId), null, 2));
  });
  mount(routes.beginSecondStep, ({ caller, body, req }) => step.begin(caller.personId, body.password, req));
  mount(routes.confirmSecondStep, async ({ caller, body, req }) => {
    await step.confirm(caller.personId, body.code, req);
    return ok;
  });
  mount(routes.endSecondStep, async ({ caller, body, req }) => {
    await step.end(caller.personId, body.password, req);
    return ok;
  });
  mount(routes.beginPasskey, async ({ caller, body, req }) => ({
    ...(await keys.begin(caller.personId, body.password, req)),
  }));
  mount(routes.keepPasskey, async ({ caller, body, req }) => {
    await keys.keep(caller.personId, body.response, body.name, req);
    return ok;
  });
  mount(routes.removePasskey, ({ caller, params }) => {
    account.removePasskey(caller.personId, params.id);
    return ok;
  });
  mount.open(routes.passkeyChallenge, async ({ req }) => ({ ...(await keys.challenge(req)) }));
  mount.open(routes.passkeySignIn, async ({ body, req }) => {
    await keys.signIn(body.response, req);
    return ok;
  });
  mount.open(routes.takeSecondStep, async ({ body, req }) => {
    await step.take(body.code, req);
    return ok;
  });
}

export interface PeopleDeps {
  people: PeopleStore;
  clock: Clock;
  demo: boolean;
  /** Anybody may make an account here */
  openSignUp: boolean;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
  /** Called after somebody has changed how they look at things: their clock may be another one */
  settingsChanged(personId: string): void;
}

export function mountPeople(
  mount: Mount,
  { people, clock, demo, openSignUp, changed, settingsChanged }: PeopleDeps,
): void {
  mount.open(routes.session, ({ caller }) =>
    sessionView(people, caller?.personId ?? null, {
      now: clock.now(),
      demo,
      open: openSignUp,
      ...(caller?.ownId ? { ownId: caller.ownId } : {}),
    }),
  );
  mount(routes.addLearner, ({ caller, body: { key, ...body } }) => {
    const isSelf = body.isSelf ?? false;
    const id = key ? keyedId(caller.personId, key) : randomUUID();
    const made = people.learnersOf(caller.personId).find((l) => l.id === id);
    if (made) return made;
    people.transaction(() => {
      if (people.learnersBegunBy(caller.personId) >= MOST.learners)
        throw tooMany(
          `You have begun ${MOST.learners} schedules, which is the most.`,
          'Use one of them, or ask whoever runs this server.',
        );
      const { isSelf: _said, ...learner } = body;
      const now = clock.now();
      const by = caller.personId;
      people.addLearner({ id, ...learner, createdAt: now, createdBy: by, personId: isSelf ? by : null });
      people.join({ personId: by, learnerId: id, access: 'keep', joinedAt: now });
    });
    return { id, ...body, isSelf, access: 'keep' as const, term: null, reminders: null };
  });
  mount(routes.changeSettings, ({ caller, body }) => {
    people.saveSettings(caller.personId, body);
    settingsChanged(caller.personId);
    return body;
  });
  mount(routes.changeTerm, ({ learner, body }) => {
    people.transaction(() => {
      refuseUnlessVersion(people.termOf(learner.id), body.version);
      people.saveTerm(learner.id, body.term);
    });
    changed(learner.id);
    return ok;
  });
}
