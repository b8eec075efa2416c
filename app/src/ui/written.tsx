import { briefPassages } from '@zephyrfield/core/item/brief';
import { Passages } from './passages';

/**
 * What a person wrote, with the paragraphs, lists and links that it has. What reads them is large: it is loaded by
 * itself (`lazyComponent`), where something is written.
 */
export function Written({ text }: { text: string }) {
  return <Passages passages={briefPassages(text)} />;
}
