import { z } from 'zod';
import * as account from '../account.ts';
import { paths } from '../paths.ts';
import { MadeOn } from '../own.ts';
import { claim } from '../claims.ts';
import { AccountView, ResetLook } from '../account-view.ts';
import { done, never, ofLearner, route } from '../route.ts';
import { Settings, Term } from '../values.ts';
import * as s from '../schemas.ts';

/** Accounts, learners, and how somebody likes to look at things. */
export const peopleRoutes = {
  session: route({
    ...paths.session,
    summary: 'Who is signed in, whose schedules they see, and what time it is',
    reply: s.Session,
    seenAs: true,
    open: true,
  }),
  signUp: route({
    ...paths.signUp,
    summary:
      'Make an account. The first one (by the set-up word) and those by an invitation are signed in; where anybody ' +
      'may come and mail goes out, a link is sent first, and the answer is the same for every address',
    body: account.SignUp,
    reply: z.object({ waits: z.boolean() }),
    open: true,
  }),
  beginAccount: route({
    ...paths.beginAccount,
    summary: 'Make the account whose link was opened, by the password that was chosen, and be signed in',
    body: account.Beginning,
    reply: done,
    open: true,
  }),
  signIn: route({
    ...paths.signIn,
    summary: 'Sign in; where the account has a second step, that is to be taken next',
    body: account.SignIn,
    reply: z.object({ secondStep: z.boolean() }),
    open: true,
  }),
  signOut: route({
    ...paths.signOut,
    summary: 'Sign out, and have the browser forget what it kept',
    reply: done,
    open: true,
  }),
  changePassword: route({
    ...paths.changePassword,
    summary: 'Change the password, which ends all other sessions',
    body: account.PasswordChange,
    reply: done,
  }),
  sendConfirmation: route({
    ...paths.sendConfirmation,
    summary: 'Send the link that confirms the person’s mail address',
    reply: done,
  }),
  confirmAddress: route({
    ...paths.confirmAddress,
    summary: 'Confirm a mail address by the link that was sent to it',
    body: account.Confirmation,
    reply: done,
    open: true,
  }),
  account: route({
    ...paths.account,
    summary: 'One’s own account: where one is signed in, and what would go with it',
    reply: AccountView,
  }),
  endSession: route({
    ...paths.endSession,
    summary: 'Sign out on another device',
    params: z.object({ id: claim('session') }),
    reply: done,
  }),
  endOtherSessions: route({
    ...paths.endOtherSessions,
    summary: 'Sign out on all devices but this one',
    reply: done,
  }),
  changeName: route({
    ...paths.changeName,
    summary: 'Change one’s name',
    body: account.NameChange,
    reply: done,
  }),
  changeEmail: route({
    ...paths.changeEmail,
    summary: 'Change one’s mail address: where mail goes out, once the link sent there was opened',
    body: account.EmailChange,
    reply: z.object({ waits: z.boolean() }),
  }),
  forgotPassword: route({
    ...paths.forgotPassword,
    summary: 'Have a link sent by which the password is set anew; the same answer whoever’s address it is',
    body: account.Forgotten,
    reply: done,
    open: true,
  }),
  lookAtReset: route({
    ...paths.lookAtReset,
    summary: 'See what else an account can be reached by, by the link that sets its password anew',
    body: account.ResetToken,
    reply: ResetLook,
    open: true,
  }),
  resetPassword: route({
    ...paths.resetPassword,
    summary: 'Set the password anew by the link that was sent; ends all sessions',
    body: account.PasswordReset,
    reply: done,
    open: true,
  }),
  leaveForGood: route({
    ...paths.leaveForGood,
    summary: 'Have one’s account deleted in seven days; signing in takes it back',
    body: account.WithPassword,
    reply: z.object({ at: s.Instant }),
  }),
  accountArchive: route({
    ...paths.accountArchive,
    summary: 'Everything that is stored about oneself, as a file',
    reply: never,
    stream: true,
  }),
  beginSecondStep: route({
    ...paths.beginSecondStep,
    summary: 'Begin a second step at signing in: the secret for an app (RFC 6238), and recovery codes',
    body: account.WithPassword,
    reply: z.object({ address: z.string(), codes: z.array(z.string()) }),
  }),
  confirmSecondStep: route({
    ...paths.confirmSecondStep,
    summary: 'Show that the app gives the right code; from then on it is asked for',
    body: account.StepCode,
    reply: done,
  }),
  endSecondStep: route({
    ...paths.endSecondStep,
    summary: 'Sign in without a second step again',
    body: account.WithPassword,
    reply: done,
  }),
  beginPasskey: route({
    ...paths.beginPasskey,
    summary: 'What a browser needs to make a passkey',
    body: account.WithPassword,
    reply: z.record(z.string(), z.unknown()),
  }),
  keepPasskey: route({
    ...paths.keepPasskey,
    summary: 'Keep the passkey that a browser has made, under a name',
    body: account.PasskeyMade,
    reply: done,
  }),
  removePasskey: route({
    ...paths.removePasskey,
    summary: 'Forget a passkey',
    params: z.object({ id: claim('passkey') }),
    reply: done,
  }),
  passkeyChallenge: route({
    ...paths.passkeyChallenge,
    summary: 'What a browser needs to ask for a passkey',
    reply: z.record(z.string(), z.unknown()),
    open: true,
  }),
  passkeySignIn: route({
    ...paths.passkeySignIn,
    summary: 'Sign in by a passkey, which stands for both steps',
    body: account.PasskeyShown,
    reply: done,
    open: true,
  }),
  takeSecondStep: route({
    ...paths.takeSecondStep,
    summary: 'Take the second step at signing in, by an app’s code or a recovery code',
    body: account.StepCode,
    reply: done,
    open: true,
  }),
  addLearner: route({
    ...paths.addLearner,
    summary: 'Begin a schedule for a learner; whoever begins it may edit it',
    body: s.NewLearner,
    reply: s.Learner,
  }),
  changeSettings: route({
    ...paths.changeSettings,
    summary: 'Change how the person likes to look at things',
    body: Settings,
    reply: Settings,
  }),
  changeTerm: route({
    ...paths.changeTerm,
    access: 'edit',
    summary:
      'Say when a learner’s term is and what its weeks are called; null takes it from the school’s calendar',
    params: ofLearner,
    body: z.object({ term: Term.nullable(), version: MadeOn }),
    reply: done,
  }),
};
