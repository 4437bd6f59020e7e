// The two text coders exist in browsers and in Node alike; the core uses nothing else from either host.
declare class TextDecoder {
  constructor(label?: string);
  decode(bytes?: Uint8Array): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
