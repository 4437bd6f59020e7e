import { gaussianProcess } from './gaussian-process.ts';
import { polynomial } from './polynomial.ts';
import type { ResponseKind } from './response.ts';
import { thinPlate } from './thin-plate.ts';

// biome-ignore lint/suspicious/noExplicitAny: options are those of the kind they belong to
export type AnyResponseKind = ResponseKind<any>;

/** Ways of fitting an output over inputs; the first is the usual one. A new one is a file beside these and an entry here. */
export const responseKinds: readonly AnyResponseKind[] = [polynomial, thinPlate, gaussianProcess];
