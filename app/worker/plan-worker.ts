// Plans away from the page, which never stutters by it. A new asking ends the one before.
import { answer, type Asking } from './plan-answer.ts';

let latest = 0;
self.onmessage = ({ data }: MessageEvent<Asking>) => {
  const mine = ++latest;
  answer(
    data,
    (told) => self.postMessage({ id: data.id, ...told }),
    () => mine !== latest,
  );
};
