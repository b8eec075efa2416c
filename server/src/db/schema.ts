// All tables, by what they are about.
export * from './schema/accounts.ts';
export * from './schema/people.ts';
export * from './schema/gathered.ts';
export * from './schema/layer.ts';
export * from './schema/notify.ts';
export * from './schema/plan.ts';
export * from './schema/out.ts';
export * from './schema/publish.ts';
export * from './schema/notes.ts';
export * from './schema/open-times.ts';
export * from './schema/outlines.ts';
