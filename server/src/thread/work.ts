import { isSound } from '../db/sound.ts';
import { IS_SOUND, PACK, UNPACK } from '../backup/jobs.ts';
import { packSchedule } from '../backup/pack.ts';
import { unpackSchedule } from '../backup/unpack.ts';
import { FILE_KIND } from '../files/jobs.ts';
import { kindOf } from '../files/kind.ts';
import { drawTodayIn } from '../first-view/draw.ts';
import { DRAW } from '../first-view/jobs.ts';
import { READ, REDERIVE } from '../gather/jobs.ts';
import { readBytes, rederive } from '../gather/read-bytes.ts';
import { betweenAsJson } from '../items/between.ts';
import { BETWEEN, OWN_DATES } from '../items/jobs.ts';
import { datesOf } from '../items/own-dates.ts';
import { READ_MAIL } from '../notes/jobs.ts';
import { readMail } from '../notes/read-mail.ts';
import { GO_OUT } from '../out/jobs.ts';
import { makeGoingOut } from '../out/make.ts';
import { readOutlineFile } from '../outline/job.ts';
import { READ_OUTLINE } from '../outline/jobs.ts';
import { publishedEntries } from '../publish/entries.ts';
import { PUBLISHED } from '../publish/jobs.ts';
import type { Job } from '../work/job.ts';

type Doing = readonly [name: string, run: (input: never) => unknown];
const by = <In, Out>({ name }: Job<In, Out>, run: (input: In) => Out | Promise<Out>): Doing => [name, run];

/** Functions that do the work of a thread, by the names of their jobs. */
export const WORK: ReadonlyMap<string, (input: never) => unknown> = new Map([
  by(READ, readBytes),
  by(REDERIVE, rederive),
  by(OWN_DATES, datesOf),
  by(BETWEEN, betweenAsJson),
  by(READ_MAIL, readMail),
  by(PUBLISHED, publishedEntries),
  by(READ_OUTLINE, readOutlineFile),
  by(FILE_KIND, ({ bytes, name }) => kindOf(bytes, name)),
  by(IS_SOUND, isSound),
  by(GO_OUT, makeGoingOut),
  by(PACK, packSchedule),
  by(UNPACK, unpackSchedule),
  by(DRAW, drawTodayIn),
]);
