import { readFileSync } from 'node:fs';
import { Question } from '@zephyrfield/core/api/plan';
import { planAll } from '@zephyrfield/core/plan/planner';
import { answerVersion } from './answer-version.ts';

answerVersion();

/**
 * `npm run --silent plan -- QUESTION.json`: the plan for a question, as JSON on standard output, by the very code that
 * the app plans with.
 */
function main(): void {
  const [file] = process.argv.slice(2);
  if (!file) {
    process.stderr.write('usage: npm run --silent plan -- QUESTION.json\n');
    process.exit(2);
  }
  const asked = Question.safeParse(JSON.parse(readFileSync(file, 'utf8')));
  if (!asked.success) {
    const [issue] = asked.error.issues;
    process.stderr.write(`${file} is no question: ${issue?.path.join('.')}: ${issue?.message}\n`);
    process.exit(1);
  }
  const { sittings, unplaced } = planAll(asked.data);
  process.stdout.write(JSON.stringify({ sittings, unplaced }) + '\n');
}

main();
