/** Values a formula works on: one number or one text for each row, or the same for all; or rows of a vector or tensor. */
export type Column =
  | number
  | string
  | readonly string[]
  | ArrayLike<number>
  /** `components` numbers for each row. */
  | { data: ArrayLike<number>; components: number };
