import type { Request, Response } from 'express';

/** Gives what is shown or played where it stands; anything else is kept on the device. */
const inPlace = (type: string): boolean => type.startsWith('image/') || type.startsWith('audio/');

/** Answers with a file that somebody has added: nothing in it can run, and the browser keeps none of it. */
export function sendFileOf(
  { type, name, path }: { type: string; name: string; path: string },
  req: Request,
  res: Response,
): Promise<void> {
  if (!inPlace(type)) res.attachment(name);
  res.set({
    'Content-Type': type,
    'Content-Security-Policy': "default-src 'none'; sandbox",
    'Cache-Control': 'private, no-store',
  });
  return new Promise((done, fail) => {
    // Who goes away before the end is no fault.
    res.sendFile(
      path,
      { dotfiles: 'allow', cacheControl: false, etag: false, lastModified: false },
      (error) => (error && !req.destroyed ? fail(error) : done()),
    );
  });
}
