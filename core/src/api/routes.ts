import type { z } from 'zod';
import type { Admitted } from './claims.ts';
import type { paths } from './paths.ts';
import type { Route } from './route.ts';
import { briefRoutes } from './routes/briefs.ts';
import { crewRoutes } from './routes/crew.ts';
import { demoRoutes } from './routes/demo.ts';
import { gatherRoutes } from './routes/gather.ts';
import { itemRoutes } from './routes/items.ts';
import { noticeRoutes } from './routes/notify.ts';
import { planRoutes } from './routes/plan.ts';
import { shareRoutes } from './routes/share.ts';
import { publishRoutes } from './routes/publish.ts';
import { tableRoutes } from './routes/table.ts';
import { noteRoutes } from './routes/notes.ts';
import { openTimeRoutes } from './routes/open-times.ts';
import { outlineRoutes } from './routes/outlines.ts';
import { peopleRoutes } from './routes/people.ts';

/** Everything the server offers. */
export const routes = {
  ...peopleRoutes,
  ...gatherRoutes,
  ...itemRoutes,
  ...briefRoutes,
  ...noticeRoutes,
  ...planRoutes,
  ...crewRoutes,
  ...shareRoutes,
  ...publishRoutes,
  ...tableRoutes,
  ...noteRoutes,
  ...openTimeRoutes,
  ...outlineRoutes,
  ...demoRoutes,
} satisfies Record<keyof typeof paths, Route>;

export type Routes = typeof routes;
/** Input of a handler: what came in, checked, its ids admitted. */
export type ParamsOf<T> =
  T extends Route<infer P, z.ZodType, z.ZodType, z.ZodType> ? Admitted<z.output<P>> : never;
export type QueryOf<T> =
  T extends Route<z.ZodType, infer Q, z.ZodType, z.ZodType> ? Admitted<z.output<Q>> : never;
export type BodyOf<T> =
  T extends Route<z.ZodType, z.ZodType, infer B, z.ZodType> ? Admitted<z.output<B>> : never;
export type ReplyOf<T> = T extends Route<z.ZodType, z.ZodType, z.ZodType, infer R> ? z.output<R> : never;
export type RequestOf<T> =
  T extends Route<infer P, infer Q, infer B, z.ZodType>
    ? { params: z.input<P>; query: z.input<Q>; body: z.input<B> }
    : never;
