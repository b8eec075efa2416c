/**
 * A short, stable name for a text: 53 bits as 11 characters. For telling things apart, not for secrets.
 * Two independent 32-bit multiply-and-xor lanes, mixed at the end.
 */
export function hash(text: string): string {
  let a = 0xdeadbeef | 0;
  let b = 0x41c6ce57;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 0x9e3779b1);
    b = Math.imul(b ^ c, 0x5f356495);
  }
  a = Math.imul(a ^ (a >>> 16), 0x85ebca6b) ^ Math.imul(b ^ (b >>> 13), 0xc2b2ae35);
  b = Math.imul(b ^ (b >>> 16), 0x85ebca6b) ^ Math.imul(a ^ (a >>> 13), 0xc2b2ae35);
  return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36).padStart(11, '0');
}
