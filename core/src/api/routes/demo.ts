import { z } from 'zod';
import { paths } from '../paths.ts';
import { route } from '../route.ts';
import * as s from '../schemas.ts';

/** Routes that only the demo world offers. */
export const demoRoutes = {
  demoPeople: route({
    ...paths.demoPeople,
    summary: 'The people of the demo world (demo only)',
    reply: z.array(z.object({ id: s.Id, name: z.string(), role: z.string() })),
    open: true,
  }),
  demoBecome: route({
    ...paths.demoBecome,
    summary: 'Sign in as somebody of the demo world (demo only)',
    params: z.object({ person: z.string().max(40) }),
    reply: s.Session,
    open: true,
  }),
  demoPostbox: route({
    ...paths.demoPostbox,
    summary: 'Where the demo’s mail arrives (demo only)',
    reply: z.object({ address: z.string() }),
    open: true,
  }),
  demoClock: route({
    ...paths.demoClock,
    summary: 'Move the demo clock ahead (demo only)',
    body: z.object({
      minutes: z
        .number()
        .int()
        .min(1)
        .max(60 * 24 * 120),
    }),
    reply: z.object({ now: s.Instant }),
  }),
};
