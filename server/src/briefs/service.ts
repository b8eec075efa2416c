import type { BriefFile, BriefWrite, KeptBrief } from '@zephyrfield/core/api/own';
import type { ItemView } from '@zephyrfield/core/api/schemas';
import { likenessOf } from '@zephyrfield/core/gather/rules';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, refuseUnlessOver, notFound } from '../http/problem.ts';
import type { FileFolder } from './folder.ts';
import { isPicture, kindOf } from './kind.ts';
import type { BriefFileRow, BriefStore } from './store.ts';

/** Bytes a file and all files of a learner may have, and how many one brief carries. */
export const MOST_BYTES = 10 * 2 ** 20;
const MOST_OF_LEARNER = 300 * 2 ** 20;
const MOST_FILES = 12;
/** How long a file that was taken away can be put back, in milliseconds. */
const KEPT = 86_400_000;

interface BriefDeps {
  store: BriefStore;
  folder: FileFolder;
  clock: Clock;
  changed(learnerId: string): void;
}

const viewOf = ({ id, name, type, size, key }: BriefFileRow): BriefFile => ({ id, name, type, size, picture: isPicture(type), ofDate: key !== '' });

/** What is expected of an item, in the fixed form, with pictures and files; and briefs kept to begin others with. */
export function briefService({ store, folder, clock, changed }: BriefDeps) {
  /** @param overOf what an item's brief is written over, where that is known */
  function put(writes: readonly BriefWrite[], overOf: (itemId: string) => BriefWrite['brief'] | undefined): BriefWrite[] {
    const now = clock.now();
    return writes.map(({ itemId, key, brief }) => {
      const before = { itemId, key, brief: store.one(itemId, key)?.value ?? null };
      refuseUnlessOver(before.brief, overOf(itemId));
      if (brief) store.put({ itemId, key, value: brief, updatedAt: now });
      else store.remove(itemId, key);
      return before;
    });
  }

  function editable(id: string) {
    const item = store.item(id);
    if (!item) throw notFound('item');
    return item;
  }

  return {
    learnerOf: (itemId: string) => editable(itemId).learnerId,
    /** The brief of an item, as one of its dates (`key`) sees it */
    of(itemId: string, key: string): ItemView['brief'] {
      const all = store.ofItem(itemId);
      const files = store.filesOf(itemId).filter((f) => f.key === '' || f.key === key);
      return { shared: all.find((b) => b.key === '')?.value ?? null, ofDate: key === '' ? null : (all.find((b) => b.key === key)?.value ?? null), files: files.map(viewOf) };
    },
    /**
     * Writes a brief on an item, or on all of its source that are like it; gives what stood there.
     * @throws ProblemError 409 where something else stands there than it was written over
     */
    write(itemId: string, { key, brief, over, alike }: Omit<BriefWrite, 'itemId'> & { alike: boolean; over?: BriefWrite['brief'] | undefined }): BriefWrite[] {
      const item = editable(itemId);
      const before = store.transaction(() => {
        if (!alike) return put([{ itemId, key, brief }], () => over);
        const like = likenessOf(item.title);
        const ids = store.siblings(item.sourceId).filter((s) => s.part === item.part && likenessOf(s.title) === like);
        // What it was written over is known of this one alone; of the others, what stood there comes back and can be put back.
        return put(
          ids.map(({ id }) => ({ itemId: id, key: '', brief })),
          (id) => (id === itemId ? over : undefined),
        );
      });
      changed(item.learnerId);
      return before;
    },
    /** Writes several, all or none; `over` is what stands on each of them. */
    putAll(learnerId: string, writes: readonly BriefWrite[], over?: BriefWrite['brief']): BriefWrite[] {
      const before = store.transaction(() => {
        for (const { itemId } of writes) if (editable(itemId).learnerId !== learnerId) throw notFound('item');
        return put(writes, () => over);
      });
      changed(learnerId);
      return before;
    },

    async addFile(itemId: string, key: string, name: string, bytes: Uint8Array): Promise<BriefFile> {
      const { learnerId } = editable(itemId);
      if (bytes.length > MOST_BYTES) throw new ProblemError(413, 'too-large', `${name} is larger than 10 MB.`, { remedy: 'Make it smaller, or link to where it lies.' });
      const kind = await kindOf(bytes, name);
      if (!kind.ok) {
        const title = { empty: `${name} is empty.`, unknown: `${name} is of a kind that cannot be kept here.`, otherwise: `${name} says it is ${kind.says}, and is ${kind.is || 'something else'}.` }[
          kind.why
        ];
        throw new ProblemError(415, 'file-kind', title, { remedy: 'Pictures, PDF, text, office documents and sound can be added; anything else by a link.' });
      }
      const row = await folder.put(bytes, (digest) =>
        store.transaction(() => {
          if (store.filesOf(itemId).length >= MOST_FILES) throw new ProblemError(422, 'too-many', `A brief carries at most ${MOST_FILES} files.`, { remedy: 'Take one away first.' });
          if (store.bytesOf(learnerId) + bytes.length > MOST_OF_LEARNER) throw new ProblemError(422, 'full', 'There is no more room for files.', { remedy: 'Take some away first; what is taken away is gone after a day.' }); // prettier-ignore
          const now = clock.now();
          const row = { id: orderedId(now), learnerId, itemId, key, name, type: kind.type, size: bytes.length, digest, removedAt: null, createdAt: now };
          store.addFile(row);
          return row;
        }),
      );
      changed(learnerId);
      return viewOf(row);
    },
    /** A file of a brief, with where its bytes lie */
    file(id: string): BriefFileRow & { path: string } {
      const row = store.file(id);
      if (!row) throw notFound('file');
      return { ...row, path: folder.of(row.digest) };
    },
    setRemoved(id: string, removed: boolean): void {
      const row = store.file(id);
      if (!row) throw notFound('file');
      store.transaction(() => store.setRemoved(id, removed ? clock.now() : null));
      changed(row.learnerId);
    },
    /** Lets go of what was taken away a day ago, and of bytes nothing refers to. */
    tidy(): void {
      store.transaction(() => store.forgetRemoved(clock.now() - KEPT));
      folder.tidy(store.digests());
    },

    kept: (personId: string): KeptBrief[] => store.kept(personId).map(({ id, name, value }) => ({ id, name, brief: value })),
    keep(personId: string, { name, brief }: Omit<KeptBrief, 'id'>): KeptBrief {
      const now = clock.now();
      const row = store.transaction(() => store.keep({ id: orderedId(now), personId, name, value: brief, updatedAt: now }));
      return { id: row.id, name: row.name, brief: row.value };
    },
    forget(personId: string, id: string): void {
      if (!store.transaction(() => store.forget(personId, id))) throw notFound('brief of yours');
    },
  };
}
export type BriefService = ReturnType<typeof briefService>;
