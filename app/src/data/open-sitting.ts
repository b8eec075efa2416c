import { create } from 'zustand';
import { onForget } from './forget';

interface OpenSitting {
  /** Which one, as its work's key and its own; null while none is open */
  id: string | null;
  open(id: string): void;
  close(): void;
}

/** The sitting that is looked at, over whatever place one is in. */
export const useOpenSitting = create<OpenSitting>()((set) => ({
  id: null,
  open: (id) => set({ id }),
  close: () => set({ id: null }),
}));
onForget(() => useOpenSitting.setState({ id: null }));
