import { ownName } from '../fields/quantity-sources.ts';
import { type Phrase, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal, boundsSize } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationSetting } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { pointsAlone } from './kernels/points-alone.ts';

export interface SpheresOptions {
  /** Of all of them, or of the largest of the whole run, in the unit of length of the run. */
  radius: number;
  /** Whether they have that radius in the model, or a share of the height of the picture wherever they are. */
  measured: 'model' | 'picture';
  share: number;
  /** Their diameter; empty where all are alike. */
  field: string;
  component: number | 'magnitude';
  /** Whether the largest has the radius, or all are so many times as large as the field says. */
  scale: 'largest' | 'factor';
  factor: number;
}

const p = phrasesOf<SpheresOptions>();

/** Of all, on the picture: some three pixels across a usual screen. Common practice, no source. */
const USUAL_SHARE = 0.004;

const sayRadius: Phrase<SpheresOptions> = p.oneOf(
  p.row(p.fixed('measured', 'picture'), p.share('share'), p.text(' of the picture')),
  p.row(p.fixed('measured', 'model'), p.number('radius', 'length')),
);

/** Spheres where the points are: particles and atoms as bodies with a size, light and shadow. */
export const spheres: Operation<SpheresOptions> = {
  id: 'spheres',
  name: 'Spheres',
  purpose: 'points as bodies of a size',
  opening: 'Spheres of ',
  joining: ', as spheres',
  schema: z.object({
    radius: boundedNumber().positive(),
    measured: z.enum(['model', 'picture']).default('model'),
    share: boundedNumber().positive().max(1).default(USUAL_SHARE),
    field: z.string().default(''),
    component: z.union([wholeNumber(), z.literal('magnitude')]).default(0),
    scale: z.enum(['largest', 'factor']).default('largest'),
    factor: boundedNumber().positive().default(1),
  }),
  defaults(setting) {
    const diameter = setting.quantities.find((q) => q.role === 'diameter');
    const radius = usualRadius(setting) * (diameter ? LARGEST : 1);
    return {
      radius: Number(radius.toPrecision(2)),
      measured: 'model',
      share: USUAL_SHARE,
      field: diameter?.field ?? '',
      component: diameter?.component ?? 0,
      scale: 'largest',
      factor: 1,
    };
  },
  phrase: p.oneOf(
    p.row(p.fixed('field', ''), p.text(' of radius '), sayRadius),
    p.row(
      p.text(' sized by '),
      p.quantity('field', 'component'),
      p.oneOf(
        p.row(p.fixed('scale', 'largest'), p.text(' up to radius '), sayRadius),
        p.row(p.fixed('scale', 'factor'), p.text(' times '), p.number('factor')),
      ),
    ),
  ),
  everyday: /^(?:a |the )?(?:balls?|beads?|particles as bodies|atoms as bodies)\b/i,
  controls: [
    {
      kind: 'quantity',
      key: 'field',
      component: 'component',
      label: 'Sized by',
      called: 'size',
      none: 'all alike',
    },
    {
      kind: 'choice',
      key: 'scale',
      label: 'So that',
      called: 'sizing',
      when: ({ field }) => field !== '',
      choices: [
        { value: 'largest', label: 'the largest has a radius' },
        { value: 'factor', label: 'all are as large as it says, times' },
      ],
    },
    {
      kind: 'number',
      key: 'factor',
      label: 'Times',
      when: ({ field, scale }) => field !== '' && scale === 'factor',
    },
    {
      kind: 'choice',
      key: 'measured',
      label: 'Measured',
      when: hasRadius,
      choices: [
        { value: 'model', label: 'in the model' },
        { value: 'picture', label: 'on the picture' },
      ],
    },
    { kind: 'share', key: 'share', label: 'Radius', when: (o) => hasRadius(o) && o.measured === 'picture' },
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      when: (o) => hasRadius(o) && o.measured === 'model',
      range: (_, { bounds }) => [boundsDiagonal(bounds) / 2000, boundsDiagonal(bounds) / 20],
    },
  ],
  traits: { showsValues: true, ofPoints: true, givesBodyTo: 'points' },
  scope: 'part',
  reads: 'step',
  gives: () => 0,
  needs: ({ field }) => (field === '' ? [] : [{ field }]),
  settle(o, { quantities }) {
    if (o.field === '') return o;
    if (o.scale === 'factor') return { ...o, measured: 'model' };
    const high = quantities.find((q) => q.field === o.field && q.component === o.component)?.high ?? 0;
    const largest = o.measured === 'picture' ? o.share : o.radius;
    return { ...o, scale: 'factor', factor: high > 0 ? (2 * largest) / high : 1 };
  },
  run(input, { measured, share, radius, field, component, factor }) {
    const alone = pointsAlone(input.mesh, 'points');
    const onPicture = measured === 'picture';
    if (field === '')
      return { ...alone, spheres: { radius: onPicture ? share : radius, radii: null, onPicture } };
    const diameters = input.scalar({ field }, component);
    if (!diameters) return emptyResult({ lacking: ownName(field) });
    // What has no size, or none that is known, is not there to be seen.
    const radii = Float32Array.from(diameters, (d) => (d > 0 ? (factor * d) / 2 : 0));
    const largest = radii.reduce((a, b) => Math.max(a, b), 0);
    return { ...alone, spheres: { radius: largest, radii, onPicture } };
  },
};

/** Sizes that a field says outright are those of the model. */
function hasRadius({ field, scale }: SpheresOptions): boolean {
  return field === '' || scale === 'largest';
}

/** The largest of several sizes is so many times as large as all would be that are alike. Common practice, no source. */
const LARGEST = 1.6;

/**
 * Atoms: two fifths of the way between neighbours if they were spread evenly over their box, so that those of a crystal
 * nearly touch. Particles, which stand free in something larger: grains. No specks and no boulders, where they are many or
 * few. Common practice, no source.
 */
export function usualRadius({ bounds, points }: Pick<OperationSetting, 'bounds' | 'points'>): number {
  const diagonal = boundsDiagonal(bounds) || 1;
  const extents = boundsSize(bounds).filter((e) => e > 1e-6 * diagonal);
  const spacing =
    (extents.reduce((a, b) => a * b, 1) / Math.max(1, points.count)) ** (1 / (extents.length || 1));
  const most = points.packed ? 0.02 : 0.0055;
  return Math.min(most * diagonal, Math.max(0.003 * diagonal, 0.4 * spacing));
}
