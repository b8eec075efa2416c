import type { BriefFile } from '@zephyrfield/core/api/own';
import { isPicture } from '../files/kind.ts';
import type { BriefFileRow } from './store.ts';

export const briefFileView = ({ id, name, type, size, recurrenceId }: BriefFileRow): BriefFile => ({
  id,
  name,
  type,
  size,
  picture: isPicture(type),
  ofDate: recurrenceId !== '',
});
