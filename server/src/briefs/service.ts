import { createHash } from 'node:crypto';
import type { Brief, BriefFile, BriefPlace, KeptBrief } from '@zephyrfield/core/api/own';
import type { ItemView } from '@zephyrfield/core/api/schemas';
import { likenessOf } from '@zephyrfield/core/gather/rules';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notFound, publishedByOthers, refuseUnlessVersion, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { FileFolder } from '../files/folder.ts';
import type { FileKind } from '../files/kind.ts';
import { isPicture } from '../files/kind.ts';
import { briefFileView } from './views.ts';
import type { BriefFileRow, BriefStore } from './store.ts';

/** Time a file that was taken away can be put back, in milliseconds. */
const KEPT = 86_400_000;

interface BriefDeps {
  store: BriefStore;
  folder: FileFolder;
  clock: Clock;
  /**
   * What a file is by its content; asked for a person, since it takes its turn beside what else they ask for
   */
  kindOf(personId: string, bytes: Uint8Array, name: string): Promise<FileKind>;
  changed(learnerId: string): void;
}

interface BriefWrite {
  recurrenceId: string;
  brief: Brief | null;
  alike: boolean;
  version?: string | null | undefined;
}

/**
 * Briefs: what is expected of an item, in the fixed form, with pictures and files; and briefs kept to begin others
 * with.
 */
export function briefService({ store, folder, clock, kindOf, changed }: BriefDeps) {
  /** Keeps what a brief says, once for the learner; gives its id. */
  function textFor(learnerId: string, value: Brief, now: number): string {
    const digest = createHash('sha256').update(JSON.stringify(value)).digest('hex');
    return store.putText({ id: orderedId(now), learnerId, digest, value, usedAt: now });
  }

  /**
   * Puts briefs on items by their texts; gives what stood there.
   * @param versionOn the version that an item's brief was made on, where that is known
   */
  function put(
    writes: readonly BriefPlace[],
    versionOn: (itemId: string) => string | null | undefined,
  ): BriefPlace[] {
    const before = store.standing(writes);
    // One text nearly always stands in many of the places, and it is read and compared once.
    const compared = new Set<string>();
    for (const { itemId, textId } of before) {
      const version = versionOn(itemId);
      const pair = `${textId} ${version}`;
      if (version === undefined || compared.has(pair)) continue;
      compared.add(pair);
      refuseUnlessVersion(textId === null ? null : store.text(textId), version);
    }
    store.putAll(writes, clock.now());
    store.touchTexts(
      before.flatMap(({ textId }) => textId ?? []),
      clock.now(),
    );
    return before;
  }

  function found(id: string) {
    const item = store.item(id);
    if (!item) throw notFound('item');
    return item;
  }

  /** An item whose brief is the schedule's own to write. @throws ProblemError where somebody else publishes it */
  function editable(id: string) {
    const item = found(id);
    if (item.sourceKind === 'published') throw publishedByOthers();
    return item;
  }

  return {
    /** The brief of an item, as one of its dates (`key`) sees it */
    of(itemId: string, recurrenceId: string): ItemView['brief'] {
      const all = store.ofItem(itemId);
      const files = store
        .filesOf(itemId)
        .filter((f) => f.of === 'brief' && (f.recurrenceId === '' || f.recurrenceId === recurrenceId));
      return {
        shared: all.find((b) => b.recurrenceId === '')?.value ?? null,
        ofDate:
          recurrenceId === '' ? null : (all.find((b) => b.recurrenceId === recurrenceId)?.value ?? null),
        files: files.map(briefFileView),
      };
    },
    /** Photos of how one date of an item was handed in */
    photos: (itemId: string, recurrenceId: string): BriefFile[] =>
      store
        .filesOf(itemId)
        .filter((f) => f.of === 'record' && f.recurrenceId === recurrenceId)
        .map(briefFileView),
    /**
     * Writes a brief on an item, or on all of its source that are like it; gives what stood there.
     * @throws ProblemError 409 where another version stands there than it was made on
     */
    write(itemId: string, { recurrenceId, brief, version, alike }: BriefWrite): BriefPlace[] {
      const item = editable(itemId);
      const before = store.transaction(() => {
        const textId = brief && textFor(item.learnerId, brief, clock.now());
        if (!alike) return put([{ itemId, recurrenceId, textId }], () => version);
        const like = likenessOf(item.title);
        const ids = store
          .siblings(item.sourceId)
          .filter((s) => s.section === item.section && likenessOf(s.title) === like);
        if (ids.length > MOST.alike)
          throw tooMany(
            `There are ${ids.length} like it; at most ${MOST.alike} can be written at once.`,
            'Write it on single ones.',
          );
        // The version it was made on is known of this one alone; of the others, what stood there comes back
        // and can be put back.
        return put(
          ids.map(({ id }) => ({ itemId: id, recurrenceId: '', textId })),
          (id) => (id === itemId ? version : undefined),
        );
      });
      changed(item.learnerId);
      return before;
    },
    /** Puts several by what they say, all or none; `version` is what stands on each of them. */
    putAll(learnerId: string, writes: readonly BriefPlace[], version?: string | null): BriefPlace[] {
      for (const itemId of new Set(writes.map((w) => w.itemId))) editable(itemId);
      const before = store.transaction(() => put(writes, () => version));
      changed(learnerId);
      return before;
    },

    async addFile(
      personId: string,
      itemId: string,
      recurrenceId: string,
      name: string,
      bytes: Uint8Array,
      of: BriefFileRow['of'] = 'brief',
    ): Promise<BriefFile> {
      const { learnerId } = of === 'brief' ? editable(itemId) : found(itemId);
      if (bytes.length > MOST.fileBytes)
        throw new ProblemError(413, 'too-large', `${name} is larger than 10 MB.`, {
          remedy: 'Make it smaller, or link to where it lies.',
        });
      const kind = await kindOf(personId, bytes, name);
      if (!kind.ok) {
        const title = {
          empty: `${name} is empty.`,
          unknown: `${name} is of a kind that cannot be kept here.`,
          otherwise: `${name} says it is ${kind.says}, and is ${kind.is || 'something else'}.`,
        }[kind.why];
        throw new ProblemError(415, 'file-kind', title, {
          remedy: 'Pictures, PDF, text, office documents and sound can be added; anything else by a link.',
        });
      }
      if (of === 'record' && !isPicture(kind.type))
        throw new ProblemError(415, 'file-kind', `${name} is no picture.`, {
          remedy: 'Take a photo of what was handed in, or choose one.',
        });
      const row = await folder.put(bytes, (digest) =>
        store.transaction(() => {
          if (store.filesOf(itemId).filter((f) => f.of === of).length >= MOST.files)
            throw tooMany(
              of === 'brief'
                ? `A brief carries at most ${MOST.files} files.`
                : `An item carries at most ${MOST.files} photos of what was handed in.`,
              'Remove one first.',
            );
          if (store.bytesOf(personId) + bytes.length > MOST.personBytes)
            throw new ProblemError(422, 'full', 'There is no more room for files.', {
              remedy: 'Remove some first; removed files are gone after a day.',
            });
          const now = clock.now();
          const row = {
            id: orderedId(now),
            learnerId,
            itemId,
            recurrenceId,
            name,
            type: kind.type,
            size: bytes.length,
            digest,
            of,
            personId,
            removedAt: null,
            createdAt: now,
          };
          store.addFile(row);
          return row;
        }),
      );
      changed(learnerId);
      return briefFileView(row);
    },
    /** Finds a file of a brief, with where its bytes lie. @throws ProblemError where they are lost */
    async file(id: string): Promise<BriefFileRow & { path: string }> {
      const row = store.file(id);
      if (!row) throw notFound('file');
      return { ...row, path: await folder.sound(row.digest, clock.now()) };
    },
    /** @param of what it is expected to belong to: who may change the one may not the other */
    setRemoved(id: string, removed: boolean, of: BriefFileRow['of']): void {
      const row = store.file(id);
      if (row?.of !== of) throw notFound('file');
      if (of === 'brief') editable(row.itemId);
      store.transaction(() => store.setRemoved(id, removed ? clock.now() : null));
      changed(row.learnerId);
    },
    /** Lets go of what was taken away a day ago, and of bytes nothing refers to. */
    tidy(): void {
      store.transaction(() => {
        store.forgetRemoved(clock.now() - KEPT);
        store.forgetTexts(clock.now() - KEPT);
      });
      folder.tidy(store.digests(), clock.now());
    },

    kept: (personId: string): KeptBrief[] =>
      store.kept(personId).map(({ id, name, value }) => ({ id, name, brief: value })),
    keep(personId: string, { name, brief }: Omit<KeptBrief, 'id'>): KeptBrief {
      const now = clock.now();
      const row = store.transaction(() => {
        const all = store.kept(personId);
        if (all.length >= MOST.keptBriefs && !all.some((k) => k.name === name))
          throw tooMany(`You keep ${MOST.keptBriefs} briefs, which is the most.`, 'Let go of one first.');
        return store.keep({ id: orderedId(now), personId, name, value: brief, updatedAt: now });
      });
      return { id: row.id, name: row.name, brief: row.value };
    },
    forget(personId: string, id: string): void {
      if (!store.transaction(() => store.forget(personId, id))) throw notFound('brief of yours');
    },
  };
}
export type BriefService = ReturnType<typeof briefService>;
