import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { PLACES } from '@/places';

test('the addresses links may lead to are the ones there are', () => {
  const root = join(__dirname, '../src/app');
  const found = readdirSync(root, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.tsx') && !/(^|\/)(_layout|\+not-found)\.tsx$/.test(file))
    .map(
      (file) =>
        `/${file
          .replace(/\.tsx$/, '')
          .replace(/\([^)]*\)\//, '')
          .replace(/(^|\/)index$/, '')}`,
    );
  expect(found.sort()).toEqual([...PLACES].sort());
});
