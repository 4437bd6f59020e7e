import { sameJson } from '../model/same-json.ts';
import type { Layer, Scale, Scene } from '../scene/document.ts';
import type { Edit } from '../scene/edits.ts';
import type { ThingId } from '../scene/things/registry.ts';

/** What goes together in scenes that are looked at side by side. */
export interface Links {
  camera: boolean;
  /** Colour scales of one quantity, with their legends. */
  scales: boolean;
  lines: boolean;
  /** Light, floor, backdrop and all else that a scene has one of. */
  looks: boolean;
}

/** Which line, operation and scale of another scene is like that of a scene, by their ids. */
export interface Likes {
  layers: ReadonlyMap<string, string>;
  /** By the line and the operation; see `stepIn`. */
  steps: ReadonlyMap<string, string>;
  scales: ReadonlyMap<string, string>;
}

/** By the keys of quantities, see `parseQuantity`: of the one scene and of the other. */
export type SameQuantity = (from: string, to: string) => boolean;

const isSame: SameQuantity = (from, to) => from === to;

/**
 * What of a scene is like what of another. Lines are like those of the same id that begin as they do, then those that are made
 * alike from the same parts, then those that are made by the same operations; each is like one. Scales are by their quantity.
 *
 * @param sameQuantity whether a quantity of the one run is what another is in the other, though it may be called otherwise
 */
export function likesOf(from: Scene, to: Scene, sameQuantity: SameQuantity = isSame): Likes {
  const layers = new Map<string, string>();
  const free = new Set(to.layers);
  const pair = (alike: (a: Layer, b: Layer) => boolean): void => {
    for (const layer of from.layers) {
      if (layers.has(layer.id)) continue;
      const like = [...free].find((other) => alike(layer, other));
      if (!like) continue;
      layers.set(layer.id, like.id);
      free.delete(like);
    }
  };
  const operations = ({ chain }: Layer): string[] => chain.map((step) => step.op);
  pair((a, b) => a.id === b.id && operations(a)[0] === operations(b)[0]);
  pair((a, b) => sameJson([a.parts, a.chain.map(plain)], [b.parts, b.chain.map(plain)]));
  pair((a, b) => sameJson([a.parts, operations(a)], [b.parts, operations(b)]));
  pair((a, b) => sameJson(operations(a), operations(b)));
  const steps = new Map<string, string>();
  for (const layer of from.layers) {
    const like = to.layers.find((l) => l.id === layers.get(layer.id));
    for (const [i, step] of layer.chain.entries())
      if (like?.chain[i]?.op === step.op) steps.set(stepIn(layer.id, step.id), like.chain[i].id);
  }
  const scales = new Map<string, string>();
  for (const { id, quantity } of from.scales) {
    const like =
      to.scales.find((s) => s.id === id && sameQuantity(quantity, s.quantity)) ??
      to.scales.find((s) => sameQuantity(quantity, s.quantity));
    if (like) scales.set(id, like.id);
  }
  return { layers, steps, scales };
}

/** Operations have ids of their own within a line only. */
export const stepIn = (layer: string, step: string): string => `${layer}\n${step}`;

const plain = ({ op, options, off }: Layer['chain'][number]) => [op, options, off];

/** Things of a scene that belong to how it is looked at, and to what is shown of it. */
const ofCamera: readonly ThingId[] = ['camera', 'upright'];
const ofScales: readonly ThingId[] = ['legends'];
/** How a film or a picture of a scene is given out is each scene's own. */
const ownThings: readonly ThingId[] = ['reel', 'stretch', 'picture'];

/**
 * An edit of one scene as it is to be made in another that is linked with it; null where nothing there is like what it changes,
 * or where that is not linked.
 *
 * @param from the scene before the edit
 */
export function linkedEdit(
  edit: Edit,
  from: Scene,
  to: Scene,
  links: Links,
  sameQuantity: SameQuantity = isSame,
): Edit | null {
  const likes = likesOf(from, to, sameQuantity);
  switch (edit.type) {
    case 'layer.remove':
    case 'layer.move':
      return links.lines ? withLike(edit, likes.layers) : null;
    case 'layer.duplicate':
      return links.lines && !to.layers.some((l) => l.id === edit.newId) ? withLike(edit, likes.layers) : null;
    case 'layer.change': {
      const linked = links.lines ? withLike(edit, likes.layers) : null;
      if (!linked) return null;
      const { colour } = linked.change;
      const own = inOwnScale(colour, linked.scale, likes, to);
      return own && { ...linked, change: { ...linked.change, ...own.change }, scale: own.scale };
    }
    case 'layer.add': {
      if (!links.lines || to.layers.some((l) => l.id === edit.layer.id)) return null;
      const own = inOwnScale(edit.layer.colour, edit.scale, likes, to);
      const thin = edit.thin?.flatMap((id) => likes.layers.get(id) ?? []);
      const { from: followed } = edit.layer;
      const follows = followed === null ? null : (likes.layers.get(followed) ?? null);
      if (followed !== null && follows === null) return null;
      const layer = { ...edit.layer, ...own?.change, from: follows };
      return own && { ...edit, layer, scale: own.scale, thin };
    }
    case 'chain.change':
    case 'chain.remove':
    case 'chain.move':
    case 'chain.switch': {
      const step = likes.steps.get(stepIn(edit.id, edit.step));
      const linked = links.lines ? withLike(edit, likes.layers) : null;
      return linked && step !== undefined ? { ...linked, step } : null;
    }
    case 'chain.add':
      return links.lines ? withLike(edit, likes.layers) : null;
    case 'layers.change':
    case 'parts.change':
    case 'parts.alone':
      return links.lines ? edit : null;
    case 'scale.change':
    case 'legend.change':
      return links.scales ? withLike(edit, likes.scales) : null;
    case 'setting.change': {
      const { thing } = edit;
      if (ownThings.includes(thing)) return null;
      const linked = ofCamera.includes(thing)
        ? links.camera
        : ofScales.includes(thing)
          ? links.scales
          : links.looks;
      return linked ? edit : null;
    }
    case 'look.wear':
      return links.looks ? edit : null;
    default:
      // Words, gauges, films, kept cameras and names are each scene's own.
      return null;
  }
}

function withLike<E extends Edit & { id: string }>(edit: E, likes: ReadonlyMap<string, string>): E | null {
  const id = likes.get(edit.id);
  return id === undefined ? null : { ...edit, id };
}

/**
 * A colour by a scale as another scene has it: by its own scale of that quantity where it has one, else by the new one.
 *
 * @returns null where it has neither
 */
function inOwnScale(
  colour: Layer['colour'] | undefined,
  scale: Scale | undefined,
  likes: Likes,
  to: Scene,
): { change: { colour?: Layer['colour'] }; scale?: Scale } | null {
  if (colour?.kind !== 'field') return { change: {} };
  if (scale && scale.id === colour.scale) {
    const own = to.scales.find((s) => s.quantity === scale.quantity);
    if (own) return { change: { colour: { ...colour, scale: own.id } } };
    return to.scales.some((s) => s.id === scale.id) ? null : { change: { colour }, scale };
  }
  const like = likes.scales.get(colour.scale);
  return like === undefined ? null : { change: { colour: { ...colour, scale: like } } };
}
