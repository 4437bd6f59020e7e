declare module 'colormap/colorScale.js' {
  /** Colours 0..255 at places 0..1, by name of the table. */
  const scales: Record<string, { index: number; rgb: [number, number, number] }[]>;
  export default scales;
}
