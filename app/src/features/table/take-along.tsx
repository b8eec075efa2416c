import type { LearnerRow, LearnersTable } from '@zephyrfield/core/api/table';
import { learnersCsv, learnersText } from '@zephyrfield/core/out/learners-table';
import type { Viewer } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { NOT_COPIED, copyText } from '@/data/copy';
import { Button } from '@/ui/button';
import { Text } from '@/ui/text';

interface Props {
  rows: readonly LearnerRow[];
  weeks: LearnersTable['weeks'];
  viewer: Viewer;
}

/** What is shown of the table as text to paste, or as a file for a spreadsheet: for a meeting. */
export function TakeAlong({ rows, weeks, viewer }: Props) {
  const [said, setSaid] = useState('');
  const context = { viewer, weeks: weeks.map((w) => w.name) };
  const copy = async () => {
    setSaid((await copyText(learnersText(rows, context))) ? 'Copied' : NOT_COPIED);
  };
  const save = () => {
    const url = URL.createObjectURL(
      new Blob([learnersCsv(rows, context)], { type: 'text/csv;charset=utf-8' }),
    );
    const link = Object.assign(document.createElement('a'), { href: url, download: 'learners.csv' });
    link.click();
    URL.revokeObjectURL(url);
  };
  return (
    <>
      <Button kind="quiet" className="px-2" disabled={!rows.length} onPress={() => void copy()}>
        Copy as text
      </Button>
      <Button kind="quiet" className="px-2" disabled={!rows.length} onPress={() => save()}>
        Save as CSV
      </Button>
      {said ? (
        <Text kind="small" role="status" className="text-fern">
          {said}
        </Text>
      ) : null}
    </>
  );
}
