import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import { setRuleSchema } from '../model/set-rule.ts';
import { currentStep } from '../ops/chain/step.ts';

/** A fraction of the picture; a little outside is allowed while something is dragged. */
const placeInPicture = boundedNumber().min(-5).max(5);

const vector = z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]);

export const chainStepSchema = z.object({
  op: z.string().max(100),
  options: z.unknown(),
  /** Form of the options; absent for the first. */
  version: wholeNumber().min(1).optional(),
  /** Switched off: passed over, with its options kept. */
  off: z.boolean(),
});

const idSchema = z.string().min(1).max(200);

const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/i);

const layerSchema = z.object({
  id: idSchema,
  /** Own name, or null to be called by its sentence. */
  name: z.string().max(300).nullable(),
  visible: z.boolean(),
  /** Names of the parts it shows; null means every part. */
  parts: z.array(z.string()).nullable(),
  /** Id of a layer whose parts and chain it takes over before its own; parts and set then stand in that one. */
  from: z.string().nullable(),
  /** Name of a part set: of the parts, only its cells are shown. */
  set: z.string().nullable(),
  chain: z.array(chainStepSchema),
  colour: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('field'),
      field: z.string(),
      component: z.union([wholeNumber().min(0), z.literal('magnitude')]),
      scale: z.string(),
    }),
    z.object({ kind: z.literal('plain'), colour: colourSchema }),
  ]),
  opacity: boundedNumber().min(0).max(1),
  /** The edges of its cells, drawn over it. */
  edges: z.object({ shown: z.boolean(), colour: colourSchema, opacity: boundedNumber().min(0).max(1) }),
  /** The step it shows: the one on show, always the same, or so many later. */
  time: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('now') }),
    z.object({ kind: z.literal('fixed'), step: wholeNumber().min(0) }),
    z.object({ kind: z.literal('later'), by: wholeNumber() }),
  ]),
  /** `inside` leaves out what turns its front to the camera, so that one looks into a closed body. */
  sides: z.enum(['both', 'inside']),
});

const legendSchema = z.object({
  visible: z.boolean(),
  /** Own title, or null for the name of the quantity. */
  title: z.string().max(300).nullable(),
  upright: z.boolean(),
  /** Middle of the legend as a fraction of the picture, from the top left. */
  x: placeInPicture,
  y: placeInPicture,
});

const scaleSchema = z.object({
  id: idSchema,
  name: z.string().max(300),
  /** Field key and component the scale was made for. */
  quantity: z.string(),
  map: z.string(),
  reversed: z.boolean(),
  bands: wholeNumber().min(1).max(64).nullable(),
  range: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('all-steps') }),
    z.object({ kind: z.literal('this-step') }),
    z.object({ kind: z.literal('fixed'), low: boundedNumber(), high: boundedNumber() }),
  ]),
  legend: legendSchema,
});

const cameraSchema = z.object({
  position: vector,
  target: vector,
  up: vector,
  projection: z.enum(['perspective', 'parallel']),
  /** Vertical opening angle in degrees, for perspective. */
  fieldOfView: boundedNumber().min(1).max(150),
  /** Height of the picture at the target in model units, for parallel projection. */
  height: boundedNumber().min(1e-12),
});

const stampSchema = z.object({
  visible: z.boolean(),
  style: z.enum(['decimals', 'clock']),
  decimals: wholeNumber().min(0).max(6),
  /** Unit shown; null for the unit of the run. */
  unit: z.string().max(40).nullable(),
  x: placeInPicture,
  y: placeInPicture,
});

/** How a part stands out in every line that shows it. */
const partLookSchema = z.object({
  hidden: z.boolean(),
  /** A colour of its own in place of the line's, or null. */
  colour: colourSchema.nullable(),
  /** Edges of its cells in place of what its lines say, or null. */
  edges: z.boolean().nullable(),
});

const partSetSchema = z.object({ name: z.string().min(1).max(100), rule: setRuleSchema });

export const sceneSchema = z.object({
  version: z.literal(3),
  name: z.string().min(1).max(200),
  layers: z.array(layerSchema).max(500),
  /** By name of the part; parts that are not named look as their lines say. */
  parts: z.record(z.string(), partLookSchema),
  /** Part sets made for this scene, beside those of the run. */
  sets: z.array(partSetSchema).max(500),
  /** What is done with parts that stand between the camera and the middle. */
  lookInside: z.enum(['off', 'translucent', 'removed']),
  scales: z.array(scaleSchema).max(500),
  camera: cameraSchema,
  light: z.object({
    rig: z.enum(['studio', 'even']),
    shadow: z.boolean(),
    /** Strength of shading in the corners and under bodies, 0..1. */
    contact: boundedNumber().min(0).max(1),
    floor: z.boolean(),
  }),
  backdrop: z.enum(['paper', 'mist', 'white', 'ink']),
  stamp: stampSchema,
  picture: z.object({
    /** Width over height; null fills the stage. */
    aspect: boundedNumber().min(0.1).max(10).nullable(),
  }),
  /** Index of the step shown. */
  step: wholeNumber().min(0),
});

export type Scene = z.infer<typeof sceneSchema>;
export type Layer = Scene['layers'][number];
export type PartLook = z.infer<typeof partLookSchema>;
export type Scale = Scene['scales'][number];
export type Legend = Scale['legend'];
export type Camera = Scene['camera'];
export type Stamp = Scene['stamp'];
export type SceneSet = Scene['sets'][number];
export type ChainStep = Layer['chain'][number];

/** Edges as they are drawn unless something else is asked for. */
export const plainEdges = { shown: false, colour: '#26241f', opacity: 0.45 };

export const CURRENT_VERSION = 3;

function layerOfVersion3({ meshEdges, ...layer }: Record<string, unknown>): object {
  const chain = Array.isArray(layer.chain) ? layer.chain.map((s) => ({ ...s, off: false })) : layer.chain;
  return {
    ...layer,
    chain,
    from: null,
    edges: { ...plainEdges, shown: meshEdges === true },
    time: { kind: 'now' },
  };
}

/** Steps from an older version to the next one: `sceneMigrations[n]` takes version n to n + 1. */
export const sceneMigrations: Record<number, (document: Record<string, unknown>) => Record<string, unknown>> =
  {
    1: (old) => ({
      ...old,
      version: 2,
      parts: {},
      layers: Array.isArray(old.layers) ? old.layers.map((l) => ({ set: null, ...l })) : old.layers,
    }),
    2: (old) => ({
      ...old,
      version: 3,
      sets: [],
      lookInside: 'off',
      parts: Object.fromEntries(
        Object.entries((old.parts ?? {}) as Record<string, object>).map(([name, look]) => [
          name,
          { ...look, edges: null },
        ]),
      ),
      layers: Array.isArray(old.layers) ? old.layers.map(layerOfVersion3) : old.layers,
    }),
  };

/** What is no step at all is left to the schema. */
const stepOfNow = (step: unknown): unknown =>
  typeof (step as ChainStep | null)?.op === 'string' ? currentStep(step as ChainStep) : step;

/**
 * A document in the form of this version, not yet checked. The given one is left alone.
 *
 * @throws Error when it is no scene, or of a version that is not known
 */
export function migrated(document: unknown): Record<string, unknown> {
  let current = document as Record<string, unknown>;
  if (typeof current !== 'object' || current === null || typeof current.version !== 'number') {
    throw new Error('This is not a scene: it has no version. Choose a file that Dresser saved.');
  }
  if (current.version > CURRENT_VERSION) {
    throw new Error(
      `This scene has version ${current.version}; this Dresser reads up to ${CURRENT_VERSION}. Use a newer one.`,
    );
  }
  while ((current.version as number) < CURRENT_VERSION) {
    const migrate = sceneMigrations[current.version as number];
    if (!migrate) throw new Error(`Scenes of version ${current.version} cannot be read.`);
    current = migrate(current);
  }
  const copy = JSON.parse(JSON.stringify(current)) as Record<string, unknown>;
  if (Array.isArray(copy.layers))
    for (const layer of copy.layers)
      if (Array.isArray(layer?.chain)) layer.chain = layer.chain.map(stepOfNow);
  return copy;
}

/**
 * Reads a scene document of any known version.
 *
 * @throws Error naming the first place that does not fit, in words for its reader
 */
export function readScene(document: unknown): Scene {
  const result = sceneSchema.safeParse(migrated(document));
  if (result.success) return result.data;
  const issue = result.error.issues[0];
  throw new Error(
    `The scene is damaged at "${issue.path.join(' / ')}": ${issue.message}. Correct or leave out that entry.`,
  );
}
