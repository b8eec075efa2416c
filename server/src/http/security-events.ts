import { paths } from '@zephyrfield/core/api/paths';

/**
 * What is written into the security log when a request has gone well, by the request: signing in and out, what an account
 * can be reached by, who sees a schedule and by what, what is taken along, and what is brought back. What is refused is
 * noted where it is refused.
 */
const EVENTS: [event: string, ...requests: { method: string; path: string }[]][] = [
  ['signed-in', paths.signIn, paths.passkeySignIn, paths.takeSecondStep],
  ['signed-up', paths.signUp, paths.beginAccount],
  ['signed-out', paths.signOut],
  ['sessions-ended', paths.endSession, paths.endOtherSessions],
  ['password-changed', paths.changePassword],
  ['password-reset', paths.resetPassword],
  ['reset-asked', paths.forgotPassword],
  ['address-asked', paths.changeEmail],
  ['address-confirmed', paths.confirmAddress],
  ['second-step-begun', paths.beginSecondStep],
  ['second-step-on', paths.confirmSecondStep],
  ['second-step-off', paths.endSecondStep],
  ['passkey-added', paths.keepPasskey],
  ['passkey-removed', paths.removePasskey],
  ['leaving', paths.leaveForGood],
  ['invited', paths.invite],
  ['invitation-taken-back', paths.takeBackInvitation],
  ['invitation-accepted', paths.acceptInvitation],
  ['access-changed', paths.changeMember],
  ['access-ended', paths.removeMember],
  ['audience-changed', paths.changeAudience],
  ['link-made', paths.addShare],
  ['link-changed', paths.changeShare, paths.renewShare],
  ['link-deleted', paths.takeBackShare],
  ['published', paths.publish],
  ['offer-answered', paths.answerOffer],
  ['exported', paths.accountArchive, paths.archiveSchedule, paths.calendarFile, paths.table],
  ['restored', paths.restoreSchedule],
];
const BY_REQUEST = new Map(
  EVENTS.flatMap(([event, ...requests]) =>
    requests.map(({ method, path }) => [`${method} ${path}`, event] as const),
  ),
);

/** Gives the name under which a request that went well is written into the security log; undefined where it is not. */
export const eventOf = ({ method, path }: { method: string; path: string }): string | undefined =>
  BY_REQUEST.get(`${method} ${path}`);
