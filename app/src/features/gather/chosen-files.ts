import { create } from 'zustand';

/** Files chosen or dropped, on their way to be read: kept while the person looks elsewhere in the app. */
interface ChosenFiles {
  files: readonly { key: number; file: File }[];
  add(files: readonly File[]): void;
  leaveOut(key: number): void;
  clear(): void;
}

let last = 0;

export const useChosenFiles = create<ChosenFiles>()((set) => ({
  files: [],
  add: (more) => set(({ files }) => ({ files: [...files, ...more.map((file) => ({ key: ++last, file }))] })),
  leaveOut: (key) => set(({ files }) => ({ files: files.filter((f) => f.key !== key) })),
  clear: () => set({ files: [] }),
}));
