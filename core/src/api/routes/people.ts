import { z } from 'zod';
import * as account from '../account.ts';
import { paths } from '../paths.ts';
import { MadeOn } from '../own.ts';
import { done, ofLearner, route } from '../route.ts';
import { Settings, Term } from '../values.ts';
import * as s from '../schemas.ts';

/** Accounts, learners, and how somebody likes to look at things. */
export const peopleRoutes = {
  session: route({
    ...paths.session,
    summary: 'Who is signed in, whose schedules they see, and what time it is',
    reply: s.Session,
    open: true,
  }),
  signUp: route({
    ...paths.signUp,
    summary: 'Make an account and be signed in; the first one needs the set-up word',
    body: account.SignUp,
    reply: done,
    open: true,
  }),
  signIn: route({ ...paths.signIn, summary: 'Sign in', body: account.SignIn, reply: done, open: true }),
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
