declare module 'scale-color-perceptual/hex/*.json' {
  const table: string[];
  export default table;
}

declare module '*/check-arrows.mjs' {
  export function reached(path: string, text: string): string[];
  export function wrongWay(from: string, name: string): string | null;
}
