import { hoursWords, shortDue, type Viewer } from '../words/when.ts';
import type { When } from '../time/when.ts';
import type { Column } from './columns.ts';
import { csv } from './table.ts';

/** Way in which one learner stands, as it goes into a meeting. */
export interface LearnerLine {
  name: string;
  weeks: readonly number[];
  pastDue: number;
  unsettled: number;
  notOpened: number;
  behind: number;
  dueSoon: number;
  unread: number;
  next: { title: string; due: When; calendar: string } | null;
  reasons: readonly string[];
}

interface Context {
  viewer: Viewer;
  /** Names of the weeks */
  weeks: readonly string[];
}

const nextWords = ({ next }: LearnerLine, viewer: Viewer) =>
  next ? `${next.title} (${next.calendar}), ${shortDue(next.due, viewer)}` : '';

const COLUMNS: Record<string, Column<LearnerLine>> = {
  name: { heading: 'Learner', of: (l) => l.name },
  pastDue: { heading: 'Past due', of: (l) => String(l.pastDue) },
  unsettled: { heading: 'Not said whether it happened', of: (l) => String(l.unsettled) },
  notOpened: { heading: 'Not opened', of: (l) => String(l.notOpened) },
  behind: { heading: 'Plans that no longer hold', of: (l) => String(l.behind) },
  dueSoon: { heading: 'Due within a week', of: (l) => String(l.dueSoon) },
  unread: { heading: 'Unread notes', of: (l) => String(l.unread) },
  next: { heading: 'Next', of: (l, { viewer }) => nextWords(l, viewer) },
  reasons: { heading: 'Why they need help', of: (l) => l.reasons.join(', ') },
};

/** The table of learners as CSV: a row each, the weeks' hours at the end. */
export function learnersCsv(lines: readonly LearnerLine[], { viewer, weeks }: Context): string {
  const hours = Object.fromEntries(
    weeks.map((name, i): [string, Column<LearnerLine>] => [
      `week ${i}`,
      { heading: `Minutes of work, ${name}`, of: (l) => String(l.weeks[i] ?? 0) },
    ]),
  );
  return csv({ ...COLUMNS, ...hours }, undefined, lines, { viewer, names: new Map() });
}

/** The same in words, a paragraph each, to be pasted into a mail or read out. */
export const learnersText = (lines: readonly LearnerLine[], { viewer, weeks }: Context): string =>
  lines
    .map((line) => {
      const next = nextWords(line, viewer);
      const ahead = weeks
        .map((name, i) => (line.weeks[i] ? `${name} ${hoursWords(line.weeks[i]!)}` : ''))
        .filter(Boolean);
      return [
        `${line.name}: ${line.reasons.length ? line.reasons.join(', ') : 'on their way'}.`,
        `${line.dueSoon ? `${line.dueSoon} due within a week` : 'Nothing due within a week'}${next ? `; next is ${next}` : ''}.`,
        ahead.length ? `Work ahead: ${ahead.join(', ')}.` : '',
      ]
        .filter(Boolean)
        .join('\n');
    })
    .join('\n\n');
