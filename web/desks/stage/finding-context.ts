import { createContext } from 'react';
import type { Statistics } from '#core/model/statistics.ts';
import type { Found, WantedValue } from '#core/scene/annotations/attachment.ts';
import type { SceneQuantity } from '#core/scene/document.ts';
import type { OwnNames } from '#core/scene/named-quantities.ts';
import type { Nearest } from '#engine/attached.ts';
import type { Picked } from '#stage/picking.ts';

/** Finds the point and cell that are nearest to what was pointed at. */
export type FindNearest = (picked: Picked) => Promise<Nearest | null>;

/** Finds things on what is shown, which the workers of the page hold. */
export interface Finding {
  nearest: FindNearest;
  /** Where a quantity is lowest or highest at a step, inside of bodies too. */
  extreme(kind: 'lowest' | 'highest', of: WantedValue, step: number): Promise<Found | null>;
  /** The range of a quantity, of vectors of their size, over the whole run; null where it cannot be had. */
  range(key: string): Promise<Statistics | null>;
  /** What a formula comes to, which may use what the scene has of its own. */
  formula(formula: string, own: OwnNames<SceneQuantity>): Promise<FormulaValues | null>;
  /** Has the numbers measured that quantities are computed with, by their keys; the run of the desk then knows them. */
  numbers(keys: readonly string[]): Promise<void>;
}

/** What a formula comes to at the step on show, of vectors by their lengths. */
export interface FormulaValues {
  low: number | null;
  high: number | null;
  unit: string | null;
  /** How many points, or cells, have none. */
  missing: number;
  vector: boolean;
  /** What is taken for granted because a unit is not known. */
  unsure: string | null;
}

export const FindingContext = createContext<Finding>({
  nearest: async () => null,
  extreme: async () => null,
  range: async () => null,
  formula: async () => null,
  numbers: async () => undefined,
});
