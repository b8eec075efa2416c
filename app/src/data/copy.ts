/** Told where a browser does not let a page copy. */
export const NOT_COPIED = 'Couldn’t copy. Select the text and copy it yourself.';

/** Copies a text; false where the browser does not allow it, as without https. */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    return false;
  }
}
