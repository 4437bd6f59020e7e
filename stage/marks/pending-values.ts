/** The values of the vertices of a mark; they are taken when they are drawn next, not when they arrive. */
export class PendingValues {
  private waiting: Float32Array | null | undefined;
  private current: Float32Array | null = null;

  /** @param values what is not a number is unknown; null for a plain colour */
  set(values: Float32Array | null): void {
    if (values !== this.current) this.waiting = values;
    this.current = values;
  }

  /** What is waiting, once; undefined where nothing is. */
  take(): Float32Array | null | undefined {
    const values = this.waiting;
    this.waiting = undefined;
    return values;
  }
}
