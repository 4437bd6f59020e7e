import type { LivingFigure } from '#core/report/living-figure.ts';

/** What readers choose of a figure: a step, and a place of its section. */
export interface Choice {
  step: number;
  place: number | null;
}

type Moments = Pick<LivingFigure, 'moments' | 'shown'>;

const momentOf = ({ moments }: Moments, { step, place }: Choice): number =>
  moments.findIndex((m) => m.step === step && m.place === place);

/** Another step: with the section where it is if the figure has that, else where the picture has it. */
export function atStep(figure: Moments, step: number, { place }: Choice): Choice {
  const own = figure.moments[figure.shown].place;
  return momentOf(figure, { step, place }) >= 0 ? { step, place } : { step, place: own };
}

/** The section elsewhere: at the same step if the figure has that, else at the step of the picture. */
export function atPlace(figure: Moments, place: number, { step }: Choice): Choice {
  const own = figure.moments[figure.shown].step;
  return momentOf(figure, { step, place }) >= 0 ? { step, place } : { step: own, place };
}

/** @returns index of the moment */
export const momentOfChoice = (figure: Moments, choice: Choice): number =>
  Math.max(0, momentOf(figure, choice));
