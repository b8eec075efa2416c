declare class TextEncoder {
  encode(text: string): Uint8Array;
}
