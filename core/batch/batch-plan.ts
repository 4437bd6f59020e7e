import { batchNames, type NamedItem } from './batch-names.ts';
import { type StepsWish, stepsOfWish } from './batch-steps.ts';

/** A shot, as far as a batch has to know it. */
export interface BatchShot {
  id: string;
  name: string;
  /** Index of the step it was kept at. */
  step: number;
  /** How many pictures its film has; null where nothing moves in it. */
  film: number | null;
}

export interface BatchRun {
  id: string;
  name: string;
  parameters: Readonly<Record<string, number | string>>;
  timeUnit: string | null;
  steps: readonly { time: number | null }[];
}

export interface BatchSize {
  width: number;
  height: number;
}

export interface BatchFormat {
  id: string;
  /** Of its files, without the dot. */
  ending: string;
}

/** Every shot of every run, at each of some steps and sizes, in each of some looks and formats. */
export interface BatchWish {
  shots: readonly BatchShot[];
  runs: readonly BatchRun[];
  steps: StepsWish;
  sizes: readonly BatchSize[];
  /** Names of looks; null for that of the shot. */
  looks: readonly (string | null)[];
  formats: readonly BatchFormat[];
  /** Formats of films, of the shots in which something moves. */
  films: readonly BatchFormat[];
  /** How files are called; see `batchNames`. */
  names: string;
}

/** A picture, or a film, that is drawn once, and the files it becomes. */
export interface BatchDrawing {
  /** Ids. */
  shot: string;
  run: string;
  /** Index of the step. */
  step: number;
  size: BatchSize;
  look: string | null;
  /** How many pictures it has where it is a film. */
  film?: number;
  files: { format: string; path: string }[];
}

export interface BatchPlan {
  drawings: BatchDrawing[];
  /** How many files come of them. */
  files: number;
  /** How many pixels are drawn. */
  pixels: number;
  /** What cannot be as it is wished, in words; the rest is made. */
  troubles: string[];
}

/** A file of a drawing, as its name can tell of it. */
export const namedItem = (
  shot: Pick<BatchShot, 'name'>,
  run: BatchRun,
  { step, size, look }: Pick<BatchDrawing, 'step' | 'size' | 'look'>,
  ending: string,
): NamedItem => ({
  shot: shot.name,
  run: run.name,
  parameters: run.parameters,
  step: step + 1,
  time: run.steps[step].time,
  timeUnit: run.timeUnit,
  ...size,
  look,
  ending,
});

/** What a batch comes to before it is begun: runs one after the other, as each has to be loaded once. */
export function planBatch(wish: BatchWish): BatchPlan {
  const troubles = new Set<string>(lackingIn(wish));
  const drawings: BatchDrawing[] = [];
  const named: NamedItem[] = [];
  for (const run of wish.runs)
    for (const shot of wish.shots) {
      const add = (step: number, formats: readonly BatchFormat[], film?: number): void => {
        for (const look of wish.looks)
          for (const size of wish.sizes) {
            const files = formats.map(({ id }) => ({ format: id, path: '' }));
            drawings.push({ shot: shot.id, run: run.id, step, size, look, ...(film && { film }), files });
            for (const { ending } of formats) named.push(namedItem(shot, run, { step, size, look }, ending));
          }
      };
      if (wish.formats.length > 0) {
        const { steps, lacking } = stepsOfWish(wish.steps, run, shot.step);
        for (const text of lacking) troubles.add(text);
        for (const step of steps) add(step, wish.formats);
      }
      if (wish.films.length > 0 && shot.film !== null)
        add(Math.min(shot.step, run.steps.length - 1), wish.films, shot.film);
    }
  const { names, troubles: ofNames } = batchNames(wish.names, named);
  const files = drawings.flatMap((d) => d.files);
  for (const [i, file] of files.entries()) file.path = names[i];
  return {
    drawings,
    files: files.length,
    pixels: drawings.reduce((sum, { size, film = 1 }) => sum + size.width * size.height * film, 0),
    troubles: [...troubles, ...ofNames],
  };
}

/** What a batch cannot be without. */
function lackingIn({ shots, runs, sizes, formats, films, looks }: BatchWish): string[] {
  return [
    ...(shots.length === 0 ? ['No shot is chosen: keep one on the stage, or choose some here.'] : []),
    ...(runs.length === 0 ? ['No run is chosen.'] : []),
    ...(sizes.length === 0 ? ['No size is chosen.'] : []),
    ...(formats.length + films.length === 0 ? ['No format is chosen.'] : []),
    ...(looks.length === 0 ? ['No look is chosen.'] : []),
    ...(films.length > 0 && shots.length > 0 && shots.every((s) => s.film === null)
      ? [
          'Nothing moves in these shots, so that no film is made: let something move in their scene, on its reel.',
        ]
      : []),
  ];
}
