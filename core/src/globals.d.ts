// The few standard globals that every place the core runs in has (browser, worker, Node).
// Declared by hand so that neither the DOM's nor Node's types are in reach here.
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(input?: Uint8Array): string;
}
declare class URL {
  constructor(url: string, base?: string);
  readonly protocol: string;
  readonly hostname: string;
  readonly pathname: string;
  readonly href: string;
  readonly searchParams: Iterable<[string, string]>;
  static canParse(url: string): boolean;
}
