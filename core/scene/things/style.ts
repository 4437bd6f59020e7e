/**
 * How something of a scene that has no data in it goes from one scene to others.
 *
 * @see Look
 */
export interface Style<T extends object> {
  /**
   * What of it is kept.
   *
   * @param size diagonal of the model, of which lengths are kept as shares
   */
  keep(value: T, size: number): Partial<T>;
  /**
   * What a look has of it that says nothing else; without it what is kept of the plainest, null for nothing at all.
   */
  usual?: Partial<T> | null;
  /**
   * It, put on in another scene.
   *
   * @param now what that scene has
   * @param size diagonal of the model there
   */
  wear(kept: Partial<T>, now: T, size: number): T;
}

/** Of what is style through and through. */
export const wholeStyle = <T extends object>(): Style<T> => ({
  keep: (value) => value,
  wear: (kept, now) => ({ ...now, ...kept }),
});
