// Plans away from the page, which never stutters by it. Each asking has a worker of its own, and ends with it.
import { answer, type Asking } from './plan-answer.ts';

self.onmessage = ({ data }: MessageEvent<Asking>) =>
  answer(
    data,
    (told) => self.postMessage(told),
    () => false,
  );
