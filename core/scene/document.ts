import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { evenBands } from '../model/levels.ts';
import { z } from '../model/schema.ts';
import { setRuleSchema } from '../model/set-rule.ts';
import { inFormOfNow, type Versioned, versionOf } from '../model/versioned.ts';
import { currentStep, withStepIds } from '../ops/chain/step.ts';
import { annotationSchema } from './annotations/registry.ts';
import { chart } from './charts/chart.ts';
import { curve } from './charts/curve.ts';
import { type KindList, kindIn, kindListNames } from './kind-lists.ts';
import { inOrder, type Key, laneSchema } from './reel/lane.ts';
import { markerSchema } from './reel/marker.ts';
import { pieceSchema } from './scenery/registry.ts';
import { colourSchema } from './things/colour-code.ts';
import { floor } from './things/floor.ts';
import { layerLook, plainEdges } from './things/layer-look.ts';
import { legend } from './things/legend.ts';
import { lens } from './things/lens.ts';
import { partLook } from './things/part-look.ts';
import { eachThing, type SceneThings, sceneThings, type ThingId } from './things/registry.ts';
import { scale } from './things/scale.ts';

export type { Annotation } from './annotations/registry.ts';
export type { Lane } from './reel/lane.ts';
export type { Marker } from './reel/marker.ts';
export type { Piece } from './scenery/registry.ts';
export type { Legend } from './things/legend.ts';
export type { Camera } from './things/lens.ts';
export type { PartLook } from './things/part-look.ts';
export type { Scale } from './things/scale.ts';
export type { Stamp } from './things/stamp.ts';

const idSchema = z.string().min(1).max(200);

export const chainStepSchema = z.object({
  /** Tells it from the others of its chain, wherever it is moved. */
  id: idSchema,
  op: z.string().max(100),
  options: z.unknown(),
  /** Form of the options; absent for the first. */
  version: wholeNumber().min(1).optional(),
  /** Switched off: passed over, with its options kept. */
  off: z.boolean(),
});

const layerSchema = z
  .object({
    id: idSchema,
    /** Own name, or null to be called by its sentence. */
    name: z.string().max(300).nullable(),
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
  })
  .and(layerLook.schema);

/** A number or a curve that is asked for: what is measured, and on what. */
const gaugeSchema = z.object({
  id: idSchema,
  /** Own name, or null to be called by what it asks. */
  name: z.string().min(1).max(300).nullable(),
  measure: z.string().max(100),
  options: z.record(z.string(), z.unknown()),
  /** What it is measured on, as a line of a scene that is never drawn. */
  on: layerSchema,
  /** Of complex quantities, in degrees; null for that of the scene. */
  phase: z.number().nullable(),
});

/** What a curve is of: an answer over the steps, or one that is a curve itself; a column of an imported history. */
const curveSourceSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('gauge'),
    gauge: idSchema,
    /** Which number of a vector. */
    part: z.enum(['value', 'x', 'y', 'z', 'size']),
    /** Of one that reads a curve at a step: that of every step, as a picture over them; absent for that of the step on show. */
    everyStep: z.boolean().optional(),
  }),
  z.object({
    kind: z.literal('column'),
    table: z.string().max(300),
    column: z.string().max(300),
    /** The name of another run that holds the history; absent for that of the scene. */
    run: z.string().min(1).max(300).optional(),
  }),
]);

const curveSchema = z
  .object({
    id: idSchema,
    of: curveSourceSchema,
    /** What is done with it before it is drawn. */
    work: z.array(chainStepSchema).max(50),
  })
  .and(curve.schema);

const chartSchema = z.object({ id: idSchema, curves: z.array(curveSchema).max(100) }).and(chart.schema);

/** A quantity that was made for a scene. */
const quantitySchema = z.object({
  id: idSchema,
  name: z.string().min(1).max(100),
  formula: z.string().min(1).max(2000),
});

const partSetSchema = z.object({ name: z.string().min(1).max(100), rule: setRuleSchema });

const thingSchemas = eachThing((thing) => thing.schema) as { [Id in ThingId]: z.ZodType<SceneThings[Id]> };

/** What a scene has one of comes from the declarations; each may say the form it was written in. */
export const sceneSchema = z.object({
  version: z.literal(5),
  name: z.string().min(1).max(200),
  layers: z.array(layerSchema).max(500),
  /** By name of the part; parts that are not named look as their lines say. */
  parts: z.record(z.string(), partLook.schema),
  /** Part sets made for this scene, beside those of the run. */
  sets: z.array(partSetSchema).max(500),
  /** Quantities made for this scene; each may use those before it. */
  quantities: z.array(quantitySchema).max(200),
  scales: z.array(scale.schema).max(500),
  /** Words and marks on the picture, in the order in which they are painted. */
  annotations: z.array(annotationSchema).max(500),
  /** What stands beside the results: bodies from files, and those made by code. */
  scenery: z.array(pieceSchema).max(500),
  /** Views that are kept, by their names. */
  cameras: z.array(z.object({ name: z.string().min(1).max(100), camera: lens.schema })).max(200),
  /** Numbers that are asked for. */
  gauges: z.array(gaugeSchema).max(500),
  charts: z.array(chartSchema).max(100),
  /** What moves in its film: values with their keys. */
  lanes: z.array(laneSchema).max(1000),
  /** Moments of its film that have a name or a caption. */
  markers: z.array(markerSchema).max(1000),
  ...thingSchemas,
  /** Forms the things were written in, by their id; absent for the first. */
  forms: z.record(z.string(), wholeNumber().min(1)).optional(),
  /** Index of the step shown. */
  step: wholeNumber().min(0),
  /** How far on it is from there to the next step, from 0 to below 1: values between the two are made of both. */
  onward: boundedNumber().min(0).lt(1),
});

export type Scene = z.infer<typeof sceneSchema>;
export type Layer = Scene['layers'][number];
export type Light = Scene['light'];
export type KeptCamera = Scene['cameras'][number];
export type SceneSet = Scene['sets'][number];
export type SceneQuantity = Scene['quantities'][number];
export type ChainStep = Layer['chain'][number];
export type Gauge = Scene['gauges'][number];
export type Chart = Scene['charts'][number];
export type Curve = Chart['curves'][number];
export type CurveSource = Curve['of'];

export { plainEdges };

export const CURRENT_VERSION = 5;

type Loose = Record<string, unknown>;

/** A list in a document that was not checked yet, each entry changed; what is no list is left to the schema. */
const eachOf = (list: unknown, change: (entry: Loose) => unknown): unknown =>
  Array.isArray(list) ? list.map((e) => (e && typeof e === 'object' ? change(e as Loose) : e)) : list;

const layerOfVersion3 = ({ meshEdges, ...layer }: Loose): Loose => ({
  ...layer,
  chain: eachOf(layer.chain, (step) => ({ ...step, off: false })),
  from: null,
  edges: { ...plainEdges, shown: meshEdges === true },
  time: { kind: 'now' },
});

/** Bands were a number of equal ones. */
const scaleOfVersion4 = (old: Loose): Loose => ({
  ...old,
  bands: typeof old.bands === 'number' ? evenBands(old.bands) : old.bands,
});

/** Steps from an older version to the next one: `sceneMigrations[n]` takes version n to n + 1. */
export const sceneMigrations: Record<number, (document: Loose) => Loose> = {
  1: (old) => ({
    ...old,
    version: 2,
    parts: {},
    layers: eachOf(old.layers, (l) => ({ set: null, ...l })),
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
    layers: eachOf(old.layers, layerOfVersion3),
  }),
  /** Steps of chains have ids; backdrop and looking inside have room for more than one choice; bands are levels. */
  3: (old) => ({
    ...old,
    version: 4,
    backdrop: { kind: old.backdrop },
    lookInside: { front: old.lookInside },
    scales: eachOf(old.scales, scaleOfVersion4),
  }),
  /** The floor is no part of the light any more. */
  4: ({ light, ...old }) => {
    const { floor: hasFloor, ...rest } = (light ?? {}) as Loose;
    const kind = hasFloor === false ? 'none' : 'shadow';
    return { ...old, version: 5, light: light && rest, floor: { ...floor.plain, kind } };
  },
};

/** What is no chain, or no step at all, is left to the schema. */
function chainOfNow(chain: unknown): unknown {
  if (!Array.isArray(chain) || chain.some((step) => !step || typeof step !== 'object')) return chain;
  return withStepIds(chain as ChainStep[]).map((step) =>
    typeof step.op === 'string' ? currentStep(step) : step,
  );
}

const layerWithChainOfNow = (layer: Loose): Loose => ({ ...layer, chain: chainOfNow(layer.chain) });

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
  // Scenes of before had none.
  for (const list of [
    'annotations',
    'scenery',
    'cameras',
    'gauges',
    'charts',
    'quantities',
    'lanes',
    'markers',
  ])
    copy[list] ??= [];
  copy.onward ??= 0;
  copy.layers = eachOf(copy.layers, layerWithChainOfNow);
  copy.gauges = eachOf(copy.gauges, (gauge) => ({
    ...gauge,
    on: gauge.on && typeof gauge.on === 'object' ? layerWithChainOfNow(gauge.on as Loose) : gauge.on,
  }));
  return withThingsOfNow(copy);
}

const declaredThings = [...sceneThings, scale, legend, layerLook, partLook, chart, curve];

/** What a scene written now says of the forms of its things; nothing while all are the first. */
export function formsOfNow(): Pick<Scene, 'forms'> {
  const later = declaredThings.filter((d) => versionOf(d) > 1);
  return later.length > 0 ? { forms: Object.fromEntries(later.map((d) => [d.id, versionOf(d)])) } : {};
}

/** Options of words, marks and scenery carry the form they were written in themselves: they are of many kinds. */
function ofKindNow(list: KindList, { version, ...options }: Loose): Loose {
  const kind = kindIn(list, options.kind);
  if (!kind) return { version, ...options };
  const now = inFormOfNow(options, (version as number | undefined) ?? 1, kind);
  return versionOf(kind) > 1 ? { ...now, version: versionOf(kind) } : now;
}

/** Keys in their order; those of a whole thing hold it in the form of now. */
function laneOfNow(
  lane: Loose,
  ofNow: (declared: Versioned & { id: string }, value: unknown) => unknown,
): Loose {
  const { of, keys } = lane;
  const thing = Array.isArray(of) && of.length === 1 ? sceneThings.find((t) => t.id === of[0]) : undefined;
  const now = thing ? eachOf(keys, (key) => ({ ...key, value: ofNow(thing, key.value) })) : keys;
  const timed = (key: unknown): key is Key => typeof (key as Key | null)?.at === 'number';
  return { ...lane, keys: Array.isArray(now) && now.every(timed) ? inOrder(now) : now };
}

/** Everything that is declared, in the form this version writes it in; `forms` says in which it was written. */
function withThingsOfNow({ forms, ...document }: Loose): Loose {
  const written = (forms ?? {}) as Record<string, number>;
  const ofNow = (declared: Versioned & { id: string }, value: unknown): unknown =>
    value && typeof value === 'object' && !Array.isArray(value)
      ? inFormOfNow(value as Loose, written[declared.id] ?? 1, declared)
      : value;
  // What came into scenes after this one was written is as plain as it can be.
  for (const thing of sceneThings)
    document[thing.id] = ofNow(thing, document[thing.id] ?? JSON.parse(JSON.stringify(thing.plain)));
  document.layers = eachOf(document.layers, (layer) => ofNow(layerLook, layer));
  document.scales = eachOf(document.scales, (one) => {
    const made = ofNow(scale, one) as Loose;
    return { ...made, legend: ofNow(legend, made.legend) };
  });
  document.gauges = eachOf(document.gauges, (gauge) => ({ ...gauge, on: ofNow(layerLook, gauge.on) }));
  document.charts = eachOf(document.charts, (one) => {
    const made = ofNow(chart, one) as Loose;
    return { ...made, curves: eachOf(made.curves, (c) => ofNow(curve, c)) };
  });
  document.cameras = eachOf(document.cameras, (one) => ({ ...one, camera: ofNow(lens, one.camera) }));
  document.lanes = eachOf(document.lanes, (lane) => laneOfNow(lane, ofNow));
  for (const list of kindListNames) document[list] = eachOf(document[list], (one) => ofKindNow(list, one));
  const { parts } = document;
  if (parts && typeof parts === 'object' && !Array.isArray(parts))
    document.parts = Object.fromEntries(
      Object.entries(parts).map(([name, look]) => [name, ofNow(partLook, look)]),
    );
  return { ...document, ...formsOfNow() };
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
