declare module 'scale-color-perceptual/hex/*.json' {
  const table: string[];
  export default table;
}
