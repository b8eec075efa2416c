import { create } from 'qrcode';

/** A QR code (ISO/IEC 18004) as a path in a square of so many units, with the quiet zone that readers want. */
export function qrPath(text: string): { path: string; size: number } {
  const { modules } = create(text, { errorCorrectionLevel: 'M' });
  let path = '';
  for (let y = 0; y < modules.size; y++)
    for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) path += `M${x + 4} ${y + 4}h1v1h-1z`;
  return { path, size: modules.size + 8 };
}
