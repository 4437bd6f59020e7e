import { sensibleField } from '../fields/default-quantity.ts';
import { originOf, withOfferedQuantities } from '../fields/quantity-sources.ts';
import { cellTypes } from '../model/cell-types.ts';
import { quantile } from '../model/levels.ts';
import { type Component, quantityKey } from '../model/quantity.ts';
import {
  isLonePoints,
  partBounds,
  type RunDescription,
  type RunField,
  type RunPart,
  sharesOf,
} from '../model/run.ts';
import { newStep, withStepIds } from '../ops/chain/step.ts';
import { bodyOperation, openingOperation, operations } from '../ops/registry.ts';
import { GLASS } from './bodies-around.ts';
import { besideLegends } from './camera.ts';
import { CURRENT_VERSION, formsOfNow, type Layer, type Scale, type Scene } from './document.ts';
import { encloses, reachesAround } from './enclosed-parts.ts';
import { freeLegendPlace } from './legend-places.ts';
import { mapForQuantity, namesOfValues } from './map-for-quantity.ts';
import { settingOf } from './setting.ts';
import { layerLook } from './things/layer-look.ts';
import { legend } from './things/legend.ts';
import { partLook } from './things/part-look.ts';
import { eachThing, type SceneThings } from './things/registry.ts';
import { scale, USUAL_MIDDLE } from './things/scale.ts';

/** A new scale for a quantity, with the map its role suggests. */
export function newScale(
  field: Parameters<typeof mapForQuantity>[0] & Pick<RunField, 'key' | 'hasExtremes'>,
  component: Component,
  id: string,
  name: string,
  others: readonly Pick<Scale, 'legend'>[] = [],
): Scale {
  return {
    ...scale.plain,
    id,
    name,
    quantity: quantityKey(field.key, component),
    map: mapForQuantity(field, component),
    categories: namesOfValues(field, component),
    range: field.hasExtremes ? { kind: 'middle', share: USUAL_MIDDLE } : scale.plain.range,
    legend: { ...legend.plain, x: freeLegendPlace(others) },
  };
}

/** Width over height of the picture a run opens in: a narrow window; in wider ones there is more room at the sides. */
export const OPENING_ASPECT = 1.36;

/**
 * The scene a run opens with. A part that encloses others is opened up, or nothing inside would be seen: bodies are
 * shown by a section through their middle, shells from their inside only, and what holds only points as glass.
 */
export function defaultScene(given: RunDescription, aspect = OPENING_ASPECT): Scene {
  const run = withOfferedQuantities(given);
  const chosen = sensibleField(run);
  const scales = chosen
    ? [
        {
          ...newScale(chosen.field, chosen.component, 'scale-1', chosen.field.name),
          range: rangeOf(run, chosen),
        },
      ]
    : [];
  const colour: Layer['colour'] = chosen
    ? { kind: 'field', field: chosen.field.key, component: chosen.component, scale: 'scale-1' }
    : { kind: 'plain', colour: '#d8d2c8' };
  const setting = settingOf(run);
  const left = besideLegends(aspect, scales);
  const things = eachThing((thing) => thing.defaults(setting, left)) as SceneThings;
  const layers = defaultLayers(run, colour);
  return {
    version: CURRENT_VERSION,
    ...formsOfNow(),
    sets: [],
    name: run.name,
    parts: partColours(layers, run),
    layers,
    scales,
    quantities: [],
    annotations: [],
    scenery: [],
    cameras: [],
    gauges: [],
    charts: [],
    lanes: [],
    markers: [],
    // What went on for some time is shown as it ended, modes from the lowest on.
    step: run.steps[0]?.kind === 'mode' ? 0 : run.steps.length - 1,
    onward: 0,
    ...things,
  };
}

/** Colours by which parts are told apart where no field colours them: neighbours differ in hue and lightness. */
const TOLD_APART = ['#d8d2c8', '#6f86a3', '#b4733f', '#8aa38f', '#a9b0b5', '#c9a227', '#5a5753'];

/** A colour of its own for each part of a line that shows several of them without a field. */
function partColours(layers: readonly Layer[], run: RunDescription): Scene['parts'] {
  const alike = layers
    .filter((l) => l.colour.kind === 'plain' && l.opacity === 1 && l.sides === 'both')
    .map((l) => run.parts.filter((p) => p.kind !== 'picture' && (l.parts?.includes(p.name) ?? true)))
    .filter((parts) => parts.length > 1);
  const coloured = alike.flatMap((parts) =>
    parts.map(
      (p, i) =>
        [
          p.name,
          { ...partLook.plain, colour: TOLD_APART[i % TOLD_APART.length], coversValues: false },
        ] as const,
    ),
  );
  return Object.fromEntries(coloured);
}

/** Where the middle of the values takes less than this share of their whole range, a few extreme ones would spoil it. */
const SPOILT = 0.85;

/** Of all steps; without the few extreme values where these would leave the others one colour. */
function rangeOf(
  run: RunDescription,
  { field, component }: { field: RunField; component: Component },
): Scale['range'] {
  const shares = sharesOf(run, quantityKey(field.key, component));
  if (!shares || shares.length < 3) return scale.plain.range;
  const middle = (share: number): number =>
    quantile(shares, (1 + share) / 2) - quantile(shares, (1 - share) / 2);
  const inner = middle(USUAL_MIDDLE);
  return inner > 0 && inner < SPOILT * middle(1)
    ? { kind: 'middle', share: USUAL_MIDDLE }
    : scale.plain.range;
}

function defaultLayers(run: RunDescription, colour: Layer['colour']): Layer[] {
  const layer = (id: string, parts: RunPart[] | null, more: Partial<Layer> = {}): Layer => ({
    ...layerLook.plain,
    id,
    name: null,
    parts: parts && parts.length < run.parts.length ? parts.map((p) => p.name) : null,
    set: null,
    chain: [],
    colour: colourFor(parts ?? run.parts, colour, run),
    from: null,
    ...more,
  });
  // Points, boxes and pictures neither enclose nor are cut; they are seen as they are.
  const points = run.parts.filter(isLonePoints);
  const context = run.parts.filter(
    (p) => !points.includes(p) && (p.kind === 'picture' || p.meshes.every((m) => m.dimension < 2)),
  );
  const meshes = run.parts.filter((p) => !points.includes(p) && !context.includes(p));
  // What coincides with a drawing is seen upon it: later lines win.
  const drawings = context.filter((p) => p.kind === 'picture');
  const slender = context.filter((p) => p.kind !== 'picture');
  const layers: Layer[] = [];
  if (drawings.length > 0) layers.push(layer('layer-drawing', drawings));
  const setting = settingOf(run);
  const moved = shapeOperation(run);
  const boxes = new Map(run.parts.map((p) => [p, partBounds(p)]));
  const aroundSome = (p: RunPart, others: RunPart[], reaches: typeof encloses): boolean =>
    run.dimension === 3 && others.some((q) => q !== p && reaches(boxes.get(p)!, boxes.get(q)!));
  const colours = (p: RunPart): boolean => colour.kind === 'field' && hasField(p, colour, run);
  const panes = meshes.filter(
    (p) =>
      GLASS_NAME.test(p.name) ||
      // What holds nothing but points is seen as their outline; they may well lie on it.
      (!colours(p) && aroundSome(p, points, reachesAround) && !aroundSome(p, meshes, encloses)),
  );
  const outer = meshes.filter((p) => !panes.includes(p) && aroundSome(p, [...meshes, ...points], encloses));
  const bodies = outer.filter((p) => p.meshes.some((m) => m.dimension === 3));
  const shells = outer.filter((p) => !bodies.includes(p));
  const rest = meshes.filter((p) => !outer.includes(p) && !panes.includes(p));
  // Parts without the field would otherwise be drawn as if its values were missing.
  const having = rest.filter(colours);
  if (having.length > 0)
    layers.push(layer('layer-inner', having, { chain: withStepIds([...curvesOf(having), ...moved]) }));
  if (having.length < rest.length)
    layers.push(
      layer(
        'layer-plain',
        rest.filter((p) => !having.includes(p)),
      ),
    );
  if (bodies.length > 0) {
    const opening = openingOperation();
    const chain = withStepIds([...moved, newStep(opening, opening.defaults(setting))]);
    layers.push(layer('layer-cut', bodies, { chain }));
  }
  if (points.length > 0) {
    const body = bodyOperation('points');
    layers.push(
      layer('layer-points', points, { chain: withStepIds([newStep(body, body.defaults(setting))]) }),
    );
  }
  if (panes.length > 0)
    layers.push(
      layer('layer-glass', panes, { colour: { kind: 'plain', colour: '#a9b0b5' }, opacity: GLASS }),
    );
  if (slender.length > 0) layers.push(layer('layer-context', slender));
  if (shells.length > 0)
    layers.push(
      layer('layer-shell', shells, { sides: 'inside', colour: { kind: 'plain', colour: '#f2ede4' } }),
    );
  return layers;
}

/** Parts that are of glass, by what they are called. Common practice, no source. */
const GLASS_NAME = /\b(glass|glazing|window|pane)\b/i;

/** More cells than this show their curves without being cut finer. */
const MOST_CURVED = 40_000;

/** What draws the faces of quadratic cells as curved as they are. */
function curvesOf(parts: RunPart[]): ReturnType<typeof newStep>[] {
  const kinds = parts.flatMap((p) => p.meshes.flatMap((m) => Object.keys(m.cellsByType)));
  const cells = parts.reduce((n, p) => n + Math.max(0, ...p.meshes.map((m) => m.cellCount)), 0);
  const curved = operations.find((o) => o.traits?.drawsCurves);
  const quadratic = [...cellTypes.values()].filter((t) => t.quadratic).map((t) => t.name);
  if (!curved || cells > MOST_CURVED || !kinds.some((k) => quadratic.includes(k))) return [];
  return [newStep(curved, curved.traits!.drawsCurves!())];
}

/** How a run with a displacement is shown: moved by it, so far that it is plain to see. */
function shapeOperation(run: RunDescription): ReturnType<typeof newStep>[] {
  const setting = settingOf(run);
  const operation = operations.find((o) => o.traits?.displaces);
  const { displacement } = setting;
  if (!operation || !displacement || !(displacement.high > 0)) return [];
  return [newStep(operation, operation.defaults(setting))];
}

const hasField = (part: RunPart, { field }: { field: string }, run: RunDescription): boolean =>
  part.steps.some((shown, step) => shown && originOf({ field }, { run, part, step }));

function colourFor(parts: RunPart[], colour: Layer['colour'], run: RunDescription): Layer['colour'] {
  if (colour.kind === 'field' && parts.some((p) => hasField(p, colour, run))) return colour;
  const slender = parts.every((p) => p.meshes.every((m) => m.dimension < 2));
  return { kind: 'plain', colour: slender ? '#5a5753' : '#d8d2c8' };
}
