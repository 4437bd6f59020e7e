import { ownName } from '../fields/quantity-sources.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import { phrasesOf } from '../language/phrase.ts';
import { buildBlocks } from '../model/blocks.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { boundsDiagonal, boundsOf } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult, followedBy } from './chain/results.ts';
import { linesFrom, reportOf } from './streamlines.ts';
import { MeshFlow } from './tracing/flow.ts';
import { placedSeeds } from './tracing/place-seeds.ts';
import {
  besideSeeds,
  lackingSeeds,
  type SeedOptions,
  sayWhereFrom,
  seedControls,
  seedHandles,
  seedSchema,
  seedSuffixes,
  usualSeeds,
} from './tracing/seed-options.ts';
import { usualVector } from './tracing/usual-vector.ts';
import { wallShear } from './tracing/wall-shear.ts';

export interface FrictionLineOptions extends SeedOptions {
  field: string;
  component: 'magnitude';
  /** A line is no longer than this, in each direction; null for the size of the body. */
  length: number | null;
}

const p = phrasesOf<FrictionLineOptions>();

const USUAL_SEEDS = 200;
const STEPS = 4000;
/** Largest error of a step, as a part of the size of the body; what is followed is known no better. */
const TOLERANCE = 1e-5;

/**
 * Lines along walls in the direction in which the flow rubs on them: that of the wall shear, which is how fast the velocity
 * along the wall changes with the distance from it.
 */
export const frictionLines: Operation<FrictionLineOptions> = {
  id: 'friction lines',
  name: 'Skin-friction lines',
  purpose: 'how the flow rubs along walls',
  opening: 'Skin-friction lines of ',
  joining: ', its skin-friction lines',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    ...seedSchema,
    length: boundedNumber().positive().nullable().default(null),
  }),
  defaults: (setting) => ({
    field: usualVector(setting)?.field ?? '',
    component: 'magnitude',
    ...usualSeeds(setting),
    seeds: 'surface',
    count: USUAL_SEEDS,
    length: null,
  }),
  phrase: p.row(
    p.maybe(p.text(' by '), p.vectorQuantity('field', 'component')),
    p.maybe(sayWhereFrom<FrictionLineOptions>()),
    p.suffixes(...seedSuffixes<FrictionLineOptions>(), {
      usual: { length: null },
      phrase: p.row(p.text('at most '), p.number('length', 'length'), p.text(' long')),
    }),
  ),
  lead: p.row(p.text('skin-friction lines of '), p.vectorQuantity('field', 'component')),
  everyday:
    /^(?:a |the |some )?(?:(?:skin[- ])?friction lines?|wall (?:shear|stream) ?lines?|oil flow(?: lines?)?)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    ...seedControls<FrictionLineOptions>(),
    {
      kind: 'number',
      key: 'length',
      label: 'Longest',
      unit: 'length',
      none: 'the body',
      range: (_, { bounds }) => [0, 2 * boundsDiagonal(bounds)],
    },
  ],
  handles: (o) => seedHandles<FrictionLineOptions>(o),
  traits: { showsValues: true, follows: true, makes: Object.values(ALONG_LINE) },
  scope: 'layer',
  reads: 'step',
  gives: () => 1,
  fits: (setting) => setting.dimension === 3 && usualVector(setting) !== null,
  needs: ({ field }) => [{ field }],
  beside: besideSeeds,
  run(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return emptyResult({ lacking: ownName(o.field) });
    if (field.components < 3)
      return emptyResult({ lacking: `directions: ${ownName(o.field)} has no three parts` });
    if (input.dimension < 3) return emptyResult({ lacking: 'walls: they have no volume' });
    // Not those the input keeps: the lines are to lead back to the points of the body.
    const walls = outerFaces(input.mesh);
    const seeds = placedSeeds(input, o);
    if (!seeds) return emptyResult({ lacking: lackingSeeds(o) });
    const flow = new MeshFlow(walls.mesh, buildBlocks(walls.mesh), wallShear(input, walls.mesh, field));
    const diagonal = boundsDiagonal(boundsOf(input.mesh.points));
    const lines = linesFrom(flow, seeds, 'both', {
      tolerance: TOLERANCE * diagonal,
      length: o.length ?? diagonal,
      time: Infinity,
      steps: STEPS,
    });
    return { ...followedBy(walls, lines.result()), report: reportOf(lines) };
  },
};
