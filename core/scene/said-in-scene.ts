import { literalPattern } from '../model/literal-pattern.ts';
import type { SetRule } from '../model/set-rule.ts';
import type { Gauge, Layer, Scene } from './document.ts';

type OtherNames = Readonly<Record<string, string>>;

/** Says other names in texts, all at once, so that two may change places. */
function replacer(names: OtherNames, before: string, after: string): (text: string) => string {
  const to = new Map(Object.entries(names));
  if (to.size === 0) return (text) => text;
  const some = [...to.keys()].sort((a, b) => b.length - a.length).map(literalPattern);
  const pattern = new RegExp(`${before}(${some.join('|')})${after}`, 'gu');
  return (text) => text.replace(pattern, (found) => to.get(found) ?? found);
}

/** Says other keys within keys. */
export const keyReplacer = (keys: OtherNames) =>
  replacer(keys, '(?<![\\p{L}\\p{N}_])', '(?![\\p{L}\\p{N}_])');

/** Says other names within conditions and formulas. */
export const nameReplacer = (names: OtherNames) =>
  replacer(names, '(?<![\\p{L}\\p{N}_.])', '(?![\\p{L}\\p{N}_(])');

/** How texts, keys and names of parts are said otherwise. */
interface Said {
  key(text: string): string;
  /** Names of fields in conditions and formulas. */
  condition(text: string): string;
  part(name: string): string;
}

/** A scene in which whole keys are others, and names of quantities in conditions and formulas. */
export const withKeysRenamed = (scene: Scene, keys: OtherNames, names: OtherNames): Scene =>
  said(scene, {
    // A formula is a key only as a whole, or within the key of what is made of it.
    key: replacer(keys, '(?<=^|:)', '(?=$|#)'),
    condition: nameReplacer(names),
    part: (name) => name,
  });

/** A scene in which keys are said otherwise; names stay as they are. */
export const withKeysSaid = (scene: Scene, key: (text: string) => string): Scene =>
  said(scene, { key, condition: (text) => text, part: (name) => name });

/** A scene in which everything that is asked of a run is said otherwise, in every line, scale, part set and setting. */
export function said(scene: Scene, { key, condition, part }: Said): Scene {
  const byPart = <V>(record: Record<string, V>): Record<string, V> =>
    Object.fromEntries(Object.entries(record).map(([name, v]) => [part(name), v]));

  /** Options of an operation or a setting: what is called a condition holds names, everything else keys. */
  const options = (value: unknown, own = ''): unknown => {
    if (typeof value === 'string') return own === 'condition' ? condition(value) : key(value);
    if (Array.isArray(value)) return value.map((v) => options(v));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, options(v, k)]));
  };
  const rule = (r: SetRule): SetRule => {
    if ('of' in r) return { ...r, of: r.of.map(rule) } as SetRule;
    if (r.kind === 'parts') return { ...r, parts: r.parts.map(part) };
    if (r.kind === 'cells') return { ...r, cells: byPart(r.cells) };
    if (r.kind === 'region') return { ...r, part: part(r.part) };
    return options(r) as SetRule;
  };
  const line = (layer: Layer): Layer => ({
    ...layer,
    parts: layer.parts?.map(part) ?? null,
    chain: layer.chain.map((step) => ({ ...step, options: options(step.options) as object })),
    colour:
      layer.colour.kind === 'field' ? { ...layer.colour, field: key(layer.colour.field) } : layer.colour,
  });
  return {
    ...scene,
    layers: scene.layers.map(line),
    gauges: scene.gauges.map((gauge) => ({
      ...gauge,
      options: options(gauge.options) as Gauge['options'],
      on: line(gauge.on),
    })),
    scales: scene.scales.map((s) => ({ ...s, quantity: key(s.quantity), name: condition(s.name) })),
    annotations: scene.annotations.map((a) => {
      const renamed = options(a) as Scene['annotations'][number];
      return { ...renamed, id: a.id, ...('part' in a ? { part: part(String(a.part)) } : {}) };
    }),
    sets: scene.sets.map((s) => ({ ...s, rule: rule(s.rule) })),
    lanes: scene.lanes.map((lane) => ({
      ...lane,
      of: lane.of[0] === 'parts' ? ['parts', part(lane.of[1]), ...lane.of.slice(2)] : lane.of,
      keys: lane.keys.map((k) => ({ ...k, value: options(k.value) })),
    })),
    quantities: scene.quantities.map((q) => ({ ...q, formula: condition(q.formula) })),
    parts: byPart(scene.parts),
  };
}
