import { colourMaps } from '../colour/maps.ts';
import { speak } from '../language/sentence.ts';
import { SentenceReader } from '../language/sentence-reader.ts';
import { quantityKey } from '../model/quantity.ts';
import type { RunDescription } from '../model/run.ts';
import { setRuleSchema } from '../model/set-rule.ts';
import { defaultScene, newScale } from './default-scene.ts';
import { type Layer, readScene, type Scale, type Scene } from './document.ts';
import { layerSentence } from './layer-sentence.ts';
import { readLayer } from './read-layer.ts';
import { quantitiesOf } from './setting.ts';

/** A line of a script that is not understood: which, where in it, and what would be. */
export class ScriptError extends Error {
  override readonly name = 'ScriptError';
}

const share = (v: number): string => `${Number((100 * v).toPrecision(12))} %`;
const vector = (v: readonly number[]): string => `(${v.join(', ')})`;
const list = (...said: (string | false)[]): string => said.filter(Boolean).join(', ');

/**
 * A scene as sentences, one a line, to be read, kept under version control and read back by `readScript`: name, colour
 * scales, part sets, lines, parts, light, lens, time and picture. Lines that begin with # are remarks.
 */
export function writeScript(scene: Scene, run: RunDescription): string {
  const { camera: c, light, stamp } = scene;
  const quantity = (s: Scale): string =>
    quantitiesOf(run).find((q) => quantityKey(q.field, q.component) === s.quantity)?.name ??
    `"${s.quantity}"`;
  const scale = (s: Scale): string =>
    list(
      `Scale of ${quantity(s)} on ${colourMaps.find((m) => m.id === s.map)?.name ?? s.map}`,
      s.name !== '' && `called "${s.name}"`,
      s.range.kind === 'all-steps' && 'over all steps',
      s.range.kind === 'this-step' && 'over this step',
      s.range.kind === 'fixed' && `from ${s.range.low} to ${s.range.high}`,
      s.bands !== null && `in ${s.bands} bands`,
      s.reversed && 'reversed',
      `legend ${s.legend.upright ? 'upright' : 'lying'} at ${share(s.legend.x)} ${share(s.legend.y)}`,
      s.legend.title !== null && `titled "${s.legend.title}"`,
      !s.legend.visible && 'legend hidden',
    );
  return `${[
    `Scene "${scene.name}"`,
    ...scene.scales.map(scale),
    ...scene.sets.map((s) => `Set "${s.name}" is ${JSON.stringify(s.rule)}`),
    ...scene.layers.map((l) => speak(layerSentence(l, scene, run, 'exact'))),
    ...Object.entries(scene.parts).map(([name, look]) =>
      list(
        `Part "${name}"`,
        look.hidden && 'hidden',
        look.colour !== null && `in ${look.colour}`,
        look.edges !== null && (look.edges ? 'with edges' : 'without edges'),
      ),
    ),
    list(
      `Light ${light.rig} on ${scene.backdrop}`,
      light.floor && 'floor',
      light.shadow && 'shadow',
      `shade ${share(light.contact)}`,
    ),
    list(
      `Seen from ${vector(c.position)} towards ${vector(c.target)}`,
      `up ${vector(c.up)}`,
      `${c.projection} of ${c.fieldOfView}°`,
      `${c.height} high`,
    ),
    list(
      `Time in ${stamp.style} at ${share(stamp.x)} ${share(stamp.y)}`,
      `${stamp.decimals} decimals`,
      stamp.unit !== null && `unit "${stamp.unit}"`,
      !stamp.visible && 'hidden',
    ),
    ...(scene.picture.aspect === null ? [] : [`Picture ${scene.picture.aspect} times as wide as high`]),
    ...(scene.lookInside === 'off' ? [] : [`Front ${scene.lookInside}`]),
    `Step ${scene.step}`,
  ].join('\n')}\n`;
}

/**
 * Reads a script, or just some sentences of lines, for a run. What it does not mention is as a run opens; sentences of
 * lines replace the lines a run opens with.
 *
 * @param before a scene to which the lines are added, instead
 * @throws ScriptError naming the line, the place in it and what would be understood
 */
export function readScript(script: string, run: RunDescription, before?: Scene): Scene {
  let scene: Scene = before ?? { ...defaultScene(run), scales: [], layers: [] };
  const lines = script.split(/\r?\n/).map((text, i) => ({ text: text.trim(), number: i + 1 }));
  for (const { text, number } of lines) {
    if (text === '' || text.startsWith('#')) continue;
    const reader = new SentenceReader(text);
    const read = statements.find((s) => {
      reader.at = 0;
      return reader.words(s.word);
    });
    const done = read ? read.read(reader, scene, run) : readLine(text, scene, run, number);
    if (read && done && !reader.done) reader.miss('the end');
    if (!done || (read && !reader.done))
      throw new ScriptError(
        `Line ${number} is not understood at "${text.slice(reader.furthest, reader.furthest + 24)}"; there could be ${reader.expected.slice(0, 8).join(', ') || 'something else'}.`,
      );
    scene = done as Scene;
  }
  const used = new Set(scene.layers.flatMap((l) => (l.colour.kind === 'field' ? [l.colour.scale] : [])));
  return readScene({ ...scene, scales: scene.scales.filter((s) => used.has(s.id)) });
}

function readLine(text: string, scene: Scene, run: RunDescription, number: number): Scene {
  const read = readLayer(text, scene, run, null, `layer-${number}`);
  if ('at' in read)
    throw new ScriptError(
      `Line ${number} is not understood at "${text.slice(read.at, read.at + 24)}"; there could be ${read.expected.slice(0, 8).join(', ')}.`,
    );
  return {
    ...scene,
    layers: [...scene.layers, read.layer as Layer],
    scales: read.scale ? [...scene.scales, read.scale] : scene.scales,
  };
}

interface Statement {
  word: string;
  read(reader: SentenceReader, scene: Scene, run: RunDescription): Scene | false;
}

type Suffixes<T> = Record<string, (reader: SentenceReader) => Partial<T> | false>;

/** Any of the suffixes behind commas, in any order. */
function suffixes<T extends object>(reader: SentenceReader, start: T, known: Suffixes<T>): T | false {
  let out = start;
  while (!reader.done) {
    if (!reader.words(',')) return false;
    const found = reader.first(
      Object.entries(known).map(
        ([word, read]) =>
          () =>
            word === '' || reader.words(word) ? read(reader) : false,
      ),
    );
    if (!found) return false;
    out = { ...out, ...found };
  }
  return out;
}

const named = <T extends string>(...names: T[]) => names.map((n) => ({ text: n, value: n }));

function readVector(reader: SentenceReader): [number, number, number] | undefined {
  if (!reader.words('(')) return undefined;
  const out: number[] = [];
  for (let k = 0; k < 3; k++) {
    const v = reader.number(null);
    if (v === undefined || !reader.words(k < 2 ? ',' : ')')) return undefined;
    out.push(v);
  }
  return out as [number, number, number];
}

/** Two shares of the picture. */
function readPlace(reader: SentenceReader): { x: number; y: number } | false {
  const x = reader.number('%');
  const y = x === undefined ? undefined : reader.number('%');
  return x === undefined || y === undefined ? false : { x: x / 100, y: y / 100 };
}

const statements: Statement[] = [
  {
    word: 'Scene',
    read(reader, scene) {
      const name = reader.quoted();
      return name ? { ...scene, name } : reader.miss('“a name”');
    },
  },
  {
    word: 'Scale of',
    read(reader, scene, run) {
      const quantities = quantitiesOf(run).map((q) => ({ text: q.name, value: q }));
      const q = reader.name(quantities);
      const key = q ? quantityKey(q.field, q.component) : reader.quoted();
      if (!key || !reader.words('on')) return false;
      const map = reader.name(colourMaps.map((m) => ({ text: m.name, value: m.id })));
      if (!map) return false;
      const id = `scale-${scene.scales.length + 1}`;
      const field = run.fields.find((f) => f.key === q?.field) ?? {
        key: key.replace(/#\w+$/, ''),
        role: 'other' as const,
      };
      const first: Scale = { ...newScale(field, q?.component ?? 0, id, q?.name ?? key), quantity: key, map };
      const legend = (change: Partial<Scale['legend']>): Partial<Scale> => {
        first.legend = { ...first.legend, ...change };
        return { legend: first.legend };
      };
      const scale = suffixes<Scale>(reader, first, {
        called: (r) => ({ name: r.quoted() ?? '' }),
        'over all steps': () => ({ range: { kind: 'all-steps' } }),
        'over this step': () => ({ range: { kind: 'this-step' } }),
        from: (r) => {
          const low = r.number(q?.unit ?? null);
          const high = low !== undefined && r.words('to') ? r.number(q?.unit ?? null) : undefined;
          return high === undefined ? false : { range: { kind: 'fixed', low: low!, high } };
        },
        in: (r) => {
          const bands = r.number(null);
          return bands !== undefined && r.words('bands') ? { bands: Math.round(bands) } : false;
        },
        reversed: () => ({ reversed: true }),
        'legend hidden': () => legend({ visible: false }),
        legend: (r) => {
          const way = r.name(named('upright', 'lying'));
          const place = way && r.words('at') && readPlace(r);
          return place ? legend({ upright: way === 'upright', ...place }) : false;
        },
        titled: (r) => legend({ title: r.quoted() }),
      });
      return scale && { ...scene, scales: [...scene.scales, scale] };
    },
  },
  {
    word: 'Set',
    read(reader, scene) {
      const name = reader.quoted();
      if (!name || !reader.words('is')) return reader.miss('“a name” is a rule');
      const text = reader.until(/$/);
      try {
        return { ...scene, sets: [...scene.sets, { name, rule: setRuleSchema.parse(JSON.parse(text)) }] };
      } catch {
        return reader.miss('a rule as JSON');
      }
    },
  },
  {
    word: 'Part',
    read(reader, scene) {
      const name = reader.quoted();
      if (!name) return reader.miss('“a part”');
      const look = suffixes<Scene['parts'][string]>(
        reader,
        { hidden: false, colour: null, edges: null },
        {
          hidden: () => ({ hidden: true }),
          'with edges': () => ({ edges: true }),
          'without edges': () => ({ edges: false }),
          in: (r) => ({ colour: r.until(/,|$/).trim() }),
        },
      );
      return look && { ...scene, parts: { ...scene.parts, [name]: look } };
    },
  },
  {
    word: 'Light',
    read(reader, scene) {
      const rig = reader.name(named('studio', 'even'));
      const backdrop =
        rig && reader.words('on') ? reader.name(named('paper', 'mist', 'white', 'ink')) : undefined;
      if (!backdrop) return false;
      const light = suffixes<Scene['light']>(
        reader,
        { rig: rig!, floor: false, shadow: false, contact: scene.light.contact },
        {
          floor: () => ({ floor: true }),
          shadow: () => ({ shadow: true }),
          shade: (r) => {
            const v = r.number('%');
            return v === undefined ? false : { contact: v / 100 };
          },
        },
      );
      return light && { ...scene, backdrop, light };
    },
  },
  {
    word: 'Seen from',
    read(reader, scene) {
      const position = readVector(reader);
      const target = position && reader.words('towards') ? readVector(reader) : undefined;
      if (!target) return false;
      const camera = suffixes<Scene['camera']>(
        reader,
        { ...scene.camera, position: position!, target },
        {
          up: (r) => {
            const up = readVector(r);
            return up ? { up } : false;
          },
          perspective: (r) => projection(r, 'perspective'),
          parallel: (r) => projection(r, 'parallel'),
          '': (r) => {
            const height = r.number(null);
            return height !== undefined && r.words('high') ? { height } : false;
          },
        },
      );
      return camera && { ...scene, camera };
    },
  },
  {
    word: 'Time in',
    read(reader, scene) {
      const style = reader.name(named('decimals', 'clock'));
      const place = style && reader.words('at') && readPlace(reader);
      if (!place) return false;
      const stamp = suffixes<Scene['stamp']>(
        reader,
        { ...scene.stamp, style: style!, ...place, visible: true, unit: null },
        {
          hidden: () => ({ visible: false }),
          unit: (r) => ({ unit: r.quoted() }),
          '': (r) => {
            const decimals = r.number(null);
            return decimals !== undefined && r.words('decimals') ? { decimals } : false;
          },
        },
      );
      return stamp && { ...scene, stamp };
    },
  },
  {
    word: 'Picture',
    read(reader, scene) {
      const aspect = reader.number(null);
      return aspect !== undefined && reader.words('times as wide as high')
        ? { ...scene, picture: { aspect } }
        : false;
    },
  },
  {
    word: 'Front',
    read(reader, scene) {
      const lookInside = reader.name(named('translucent', 'removed', 'off'));
      return lookInside ? { ...scene, lookInside } : false;
    },
  },
  {
    word: 'Step',
    read(reader, scene, run) {
      const step = reader.number(null);
      return step === undefined
        ? false
        : { ...scene, step: Math.min(Math.max(0, Math.round(step)), run.steps.length - 1) };
    },
  },
];

function projection(
  reader: SentenceReader,
  kind: Scene['camera']['projection'],
): Partial<Scene['camera']> | false {
  const angle = reader.words('of') ? reader.number('°') : undefined;
  return angle === undefined ? false : { projection: kind, fieldOfView: angle };
}
