import type { BriefFile } from '@zephyrfield/core/api/own';
import { createElement } from 'react';
import { fileAddress } from '@/data/briefs';

/** A picture as wide as there is room; the whole of it one tap away. */
export function Picture({ file: { id, name } }: { file: Pick<BriefFile, 'id' | 'name'> }) {
  return createElement(
    'a',
    {
      href: fileAddress(id),
      target: '_blank',
      rel: 'noopener noreferrer',
      'aria-label': `${name}, the whole picture`,
      className: 'block',
    },
    createElement('img', {
      src: fileAddress(id),
      alt: name.replace(/\.\w+$/, ''),
      loading: 'lazy',
      className: 'max-h-[320px] min-h-[44px] min-w-[44px] max-w-full rounded-lg border border-line',
    }),
  );
}
