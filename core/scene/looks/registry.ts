import { blueprint } from './blueprint.ts';
import { clay } from './clay.ts';
import { glassHouse } from './glass-house.ts';
import { highContrast } from './high-contrast.ts';
import { night } from './night.ts';
import { paper } from './paper.ts';
import { plainSlides } from './plain-slides.ts';
import { printGrey } from './print-grey.ts';
import { reviewWhite } from './review-white.ts';
import type { ShippedLook } from './shipped-look.ts';
import { technicalInk } from './technical-ink.ts';
import { warmProduct } from './warm-product.ts';

/** Looks that ship, in the order in which they are offered. A new one is a file beside this and a line here. */
export const shippedLooks: readonly ShippedLook[] = [
  paper,
  reviewWhite,
  warmProduct,
  night,
  glassHouse,
  clay,
  printGrey,
  plainSlides,
  technicalInk,
  blueprint,
  highContrast,
];

/** The one new scenes begin with until another is chosen. */
export const USUAL_LOOK = paper.id;
