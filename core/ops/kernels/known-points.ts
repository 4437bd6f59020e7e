import { ALONG_LINE } from '../../fields/sources/along-line.ts';
import type { MeshField } from '../../model/field.ts';
import type { OperationSetting } from '../chain/operation.ts';

/** The quantity that points are known by from step to step, where the run has one; empty where it has none. */
export function usualIdentifier({ quantities }: OperationSetting): string {
  const id = quantities.find((q) => q.role === 'identifier' && q.location === 'point' && q.components === 1);
  return id && !Object.values<string>(ALONG_LINE).includes(id.field) ? id.field : '';
}

/** Chooses that quantity; none is the order of the points. */
export const knownBy = {
  kind: 'quantity',
  key: 'field',
  component: 'component',
  label: 'Known by',
  called: 'mark',
  none: 'their order',
} as const;

/** Numbers that name something, with all their digits: there are more particles than single precision tells apart. */
export const identifiersOf = ({ data, components }: MeshField, component: number): ArrayLike<number> =>
  components === 1
    ? data
    : Float64Array.from({ length: data.length / components }, (_, i) => data[components * i + component]);

export const NO_IDENTIFIER = 'number that tells which is which: choose another quantity they are known by';

/** Why points cannot be known by their order. */
export const orderLost = (before: number, now: number): string =>
  `order that stays: there are ${before} points at one step and ${now} at another. Choose a quantity that tells which is which`;
