/**
 * Round numbers between `low` and `high`: steps of 1, 2 or 5 times a power of ten, about `wanted` of them.
 * Common practice, no source.
 */
export function roundTicks(low: number, high: number, wanted = 5): number[] {
  const width = high - low;
  if (!(width > 0) || !Number.isFinite(width)) return Number.isFinite(low) ? [low] : [];
  const rough = width / Math.max(1, wanted);
  const power = 10 ** Math.floor(Math.log10(rough));
  const step =
    power *
    (rough / power < Math.SQRT2
      ? 1
      : rough / power < Math.sqrt(10)
        ? 2
        : rough / power < Math.sqrt(50)
          ? 5
          : 10);
  const first = Math.ceil(low / step - 1e-9);
  const last = Math.floor(high / step + 1e-9);
  const out: number[] = [];
  for (let i = first; i <= last; i++) out.push(Number((i * step).toPrecision(12)));
  return out;
}

/** Edges of equal bands, or round numbers for a continuous scale. */
export function legendTicks(low: number, high: number, bands: number | null, wanted = 5): number[] {
  if (bands === null) return roundTicks(low, high, wanted);
  const every = Math.ceil(bands / 8);
  const out: number[] = [];
  for (let i = 0; i <= bands; i += every) out.push(low + ((high - low) * i) / bands);
  return out;
}

/**
 * Ticks as texts with the same number of decimals, just enough to tell them apart; very large and small values
 * share a power of ten that is returned beside them (0 when there is none).
 */
export function tickTexts(ticks: number[]): { texts: string[]; power: number } {
  const largest = Math.max(...ticks.map(Math.abs), 0);
  const power =
    largest >= 1e6 || (largest > 0 && largest < 1e-3) ? 3 * Math.floor(Math.log10(largest) / 3) : 0;
  const scaled = ticks.map((t) => t / 10 ** power);
  const gap = Math.min(
    ...scaled.slice(1).map((t, i) => Math.abs(t - scaled[i])),
    Math.max(...scaled.map(Math.abs), 1e-12),
  );
  for (let decimals = 0; decimals < 8; decimals++) {
    const texts = scaled.map((t) => t.toFixed(decimals));
    if (scaled.every((t, i) => Math.abs(Number(texts[i]) - t) <= 0.006 * gap) || decimals === 7) {
      return { texts: texts.map((t) => (Number(t) === 0 ? t.replace('-', '') : t.replace('-', '−'))), power };
    }
  }
  return { texts: scaled.map(String), power };
}
