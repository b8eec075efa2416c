import { z } from 'zod';
import { paths } from '../paths.ts';
import { PlanSettings, PlanSettingsChange, PlanView, RunUpView, RunUpWrite, SittingTold } from '../plan.ts';
import { ofItem, ofLearner, route } from '../route.ts';

/** Routes for when there is time, and how work is worked on before it is due. */
export const planRoutes = {
  plan: route({
    ...paths.plan,
    access: 'look',
    summary: 'When a learner can work, what is planned, and how long work took',
    params: ofLearner,
    reply: PlanView,
  }),
  changePlanSettings: route({
    ...paths.changePlanSettings,
    access: 'edit',
    summary: 'Say when a learner can work, and how they like to',
    params: ofLearner,
    body: z.object({ settings: PlanSettingsChange, version: z.number().int().min(0) }),
    reply: z.object({ settings: PlanSettings, version: z.number() }),
  }),
  writeRunUps: route({
    ...paths.writeRunUps,
    access: 'edit',
    summary: 'Write run-ups with their sittings, all or none; gives what stands, and what stood before',
    params: ofLearner,
    body: z.object({ writes: z.array(RunUpWrite).min(1).max(500) }),
    reply: z.object({ runUps: z.array(RunUpView), before: z.array(RunUpView) }),
  }),
  tellSitting: route({
    ...paths.tellSitting,
    access: 'tick',
    summary: 'Say that a sitting was kept, with the minutes it took, or missed; or that it is still to come',
    params: ofItem,
    body: SittingTold,
    reply: RunUpView,
  }),
};
