/** The element that a view is on the web; null before it is drawn. */
export const elementOf = (view: unknown): HTMLElement | null => view as HTMLElement | null;
