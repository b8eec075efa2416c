/** Tells how a link that stands by itself looks: in small print, or as large as what is read. */
export const linkLook = (size: 'small' | 'body' = 'small'): string =>
  `min-h-touch content-center font-text ${size === 'small' ? 'text-small' : 'text-body'} font-bold text-lagoon underline`;
