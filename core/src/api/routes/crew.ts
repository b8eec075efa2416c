import { z } from 'zod';
import { claim } from '../claims.ts';
import * as crew from '../crew.ts';
import { paths } from '../paths.ts';
import { done, ofCalendar, ofLearner, route } from '../route.ts';
import * as s from '../schemas.ts';

const ofMember = z.object({ id: claim('member') });

/** The people around a learner: who they are, what they may do, and how they come in. */
export const crewRoutes = {
  crew: route({
    ...paths.crew,
    access: 'look',
    summary: 'Who is in a learner’s crew; for who keeps it, also invitations and what happened with access',
    params: ofLearner,
    reply: crew.CrewView,
  }),
  changeMember: route({
    ...paths.changeMember,
    access: 'keep',
    summary: 'Change what somebody in the crew may do, or say whether it is their own schedule',
    params: ofMember,
    body: z.object({ access: s.Access, isSelf: z.boolean() }).partial(),
    reply: done,
  }),
  removeMember: route({
    ...paths.removeMember,
    access: 'look',
    summary: 'Leave a crew, or (who keeps it) remove somebody from it',
    params: ofMember,
    reply: done,
  }),
  invite: route({
    ...paths.invite,
    access: 'keep',
    several: true,
    summary: 'Invite somebody by a mail, a link or a code; what lets them in is told this once',
    body: crew.NewInvitation,
    reply: z.object({ secret: z.string().nullable() }),
  }),
  takeBackInvitation: route({
    ...paths.takeBackInvitation,
    access: 'keep',
    summary: 'Take an invitation to a learner’s crew back',
    params: z.object({ id: claim('invitation') }),
    reply: done,
  }),
  lookAtInvitation: route({
    ...paths.lookAtInvitation,
    summary: 'Who asks, and what one will be able to do',
    body: crew.InvitationSecret,
    reply: crew.InvitationLook,
    open: true,
  }),
  acceptInvitation: route({
    ...paths.acceptInvitation,
    summary: 'Come into the crews an invitation is to',
    body: crew.InvitationSecret,
    reply: z.object({ learnerIds: z.array(s.Id) }),
  }),
  changeAudience: route({
    ...paths.changeAudience,
    access: 'edit',
    summary: 'Say whom in the crew a calendar is for; null: for everybody',
    params: ofCalendar,
    body: crew.AudienceChange,
    reply: s.CalendarView,
  }),
};
