declare module 'scale-color-perceptual/hex/*.json' {
  const table: string[];
  export default table;
}

declare module '*/check-arrows.mjs' {
  export function reached(path: string, text: string): string[];
  export function wrongWay(from: string, name: string): string | null;
}

declare module 'gltf-validator' {
  interface Report {
    issues: { numErrors: number; messages: { code: string; pointer: string; severity: number }[] };
    info: { totalTriangleCount: number };
  }
  export function validateBytes(bytes: Uint8Array): Promise<Report>;
}

declare module 'three/examples/jsm/loaders/usd/USDAParser.js' {
  export class USDAParser {
    parseText(text: string): object;
  }
}
