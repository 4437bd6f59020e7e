import { quote } from '../../language/sentence.ts';
import type { SentenceReader } from '../../language/sentence-reader.ts';
import type { Address } from '../addresses.ts';
import type { Scene } from '../document.ts';
import { even } from './ease.ts';
import { readEase, sayEase } from './ease-words.ts';
import { inOrder, type Lane, laneSchema, sameAddress, type Way } from './lane.ts';
import { markerSchema } from './marker.ts';

export const LANE = 'Lane of';
export const KEY = 'Key of';
export const MARKER = 'Marker at';

/** Lists whose elements a script knows by their number, and what it calls them. */
const numbered = { layers: 'line', scales: 'scale', annotations: 'words', scenery: 'scenery' } as const;

type Numbered = keyof typeof numbered;
type WithId = { id: string };

const isNumbered = (name: string): name is Numbered => Object.hasOwn(numbered, name);

const OPERATION = 'operation';
const PART = 'part';

/** `line 2 / operation 1 / offset`, `camera`, `part "rack" / colour`. What is gone is said by its id. */
export function sayAddress(scene: Scene, [first, second, ...rest]: Address): string {
  if (first === 'parts') return [`${PART} ${quote(second)}`, ...rest].join(' / ');
  if (!isNumbered(first)) return [first, ...(second === undefined ? [] : [second]), ...rest].join(' / ');
  const at = (scene[first] as WithId[]).findIndex((e) => e.id === second);
  const said = [at < 0 ? `${numbered[first]} ${quote(second)}` : `${numbered[first]} ${at + 1}`];
  if (rest[0] !== 'chain' || rest.length < 2) return [...said, ...rest].join(' / ');
  const step = scene.layers[at]?.chain.findIndex((s) => s.id === rest[1]) ?? -1;
  said.push(step < 0 ? `${OPERATION} ${quote(rest[1])}` : `${OPERATION} ${step + 1}`);
  return [...said, ...rest.slice(2)].join(' / ');
}

/** Reads what `sayAddress` says; names of what is gone stay as they are. */
function readAddress(reader: SentenceReader, scene: Scene): Address | undefined {
  const out: string[] = [];
  let chain: readonly WithId[] = [];
  do {
    const found = reader.first([
      ...(Object.keys(numbered) as Numbered[]).map((list) => () => {
        if (out.length > 0 || !reader.words(numbered[list])) return undefined;
        const id = readElement(reader, scene[list] as WithId[]);
        if (list === 'layers') chain = scene.layers.find((l) => l.id === id)?.chain ?? [];
        return id === undefined ? undefined : [list, id];
      }),
      () => {
        if (out.length === 0 || !reader.words(OPERATION)) return undefined;
        const id = readElement(reader, chain);
        return id === undefined ? undefined : ['chain', id];
      },
      () => {
        if (out.length > 0 || !reader.words(PART)) return undefined;
        const name = reader.quoted();
        return name === null ? undefined : ['parts', name];
      },
      () => {
        reader.space();
        const word = reader.until(/[^\w-]/);
        return word === '' ? undefined : [word];
      },
    ]);
    if (!found) {
      reader.miss('what moves');
      return undefined;
    }
    out.push(...found);
  } while (reader.first([() => reader.words('/')]));
  return out;
}

/** The id of an element by its number. One that is gone keeps its number for an id: what moved it is then told of. */
function readElement(reader: SentenceReader, list: readonly WithId[]): string | undefined {
  const gone = reader.quoted();
  if (gone !== null) return gone;
  const number = reader.number(null, 'its number');
  return number === undefined ? undefined : (list[Math.round(number) - 1]?.id ?? String(number));
}

/** Everything of a reel that a script says beside its length: lanes with their keys, and markers. */
export function reelSentences(scene: Scene): string[] {
  return [
    ...scene.lanes.flatMap((lane) => {
      const of = sayAddress(scene, lane.of);
      const how = [lane.smooth && 'smooth', lane.steady && 'steady', lane.off && 'off'].filter(Boolean);
      return [
        ...(how.length > 0 ? [`${LANE} ${of}, ${how.join(', ')}`] : []),
        ...lane.keys.map(({ at, value, ease, way }) => {
          const goesOn = ease.kind === 'even' ? '' : `, ${sayEase(ease)}`;
          return `${KEY} ${of} at ${at} s is ${JSON.stringify(value)}${goesOn}${way ? `, ${sayWay(way)}` : ''}`;
        }),
      ];
    }),
    ...scene.markers.map(
      ({ at, name, caption, until }) =>
        `${MARKER} ${at} s ${quote(name)}${caption === '' ? '' : `, saying ${quote(caption)}`}${until === null ? '' : `, until ${until} s`}`,
    ),
  ];
}

const FROM_HERE = 'from here';
const ANY_WAY = 'plain';

/** `from here smooth, steady`, `from here plain`. */
const sayWay = ({ smooth, steady }: Way): string => {
  const how = [smooth && 'smooth', steady && 'steady'].filter(Boolean);
  return `${FROM_HERE} ${how.length > 0 ? how.join(', ') : ANY_WAY}`;
};

function readWay(reader: SentenceReader): Way | undefined {
  if (!reader.words(`, ${FROM_HERE}`)) return undefined;
  const words = (['smooth', 'steady'] as const).map((value) => ({ text: value, value }));
  const first = reader.name([...words, { text: ANY_WAY, value: null }]);
  if (first === undefined) return undefined;
  const second = first && reader.first([() => (reader.words(',') ? reader.name(words) : undefined)]);
  return { smooth: [first, second].includes('smooth'), steady: [first, second].includes('steady') };
}

/** The lane of an address, that of the scene or a new one without keys. */
const laneFor = ({ lanes }: Scene, of: Address): Lane =>
  lanes.find((l) => sameAddress(l.of, of)) ?? {
    id: `lane-${lanes.length + 1}`,
    of: [...of],
    off: false,
    smooth: false,
    steady: false,
    keys: [],
  };

const withLane = (scene: Scene, lane: Lane): Scene => ({
  ...scene,
  lanes: scene.lanes.some((l) => l.id === lane.id)
    ? scene.lanes.map((l) => (l.id === lane.id ? lane : l))
    : [...scene.lanes, lane],
});

/** Reads what stands behind `Lane of`: how a lane goes whose keys follow. */
export function readLane(reader: SentenceReader, scene: Scene): Scene | false {
  const of = readAddress(reader, scene);
  if (!of) return false;
  const how: Partial<Record<'smooth' | 'steady' | 'off', true>> = {};
  while (!reader.done) {
    if (!reader.words(',')) return false;
    const word = reader.name((['smooth', 'steady', 'off'] as const).map((value) => ({ text: value, value })));
    if (!word) return false;
    how[word] = true;
  }
  // A lane without keys is none: it waits for them under its name.
  return withLane(scene, { ...laneFor(scene, of), ...how });
}

/** Reads what stands behind `Key of`. */
export function readKey(reader: SentenceReader, scene: Scene): Scene | false {
  const of = readAddress(reader, scene);
  if (!of || !reader.words('at')) return false;
  const at = reader.number('s', 'a time');
  if (at === undefined || !reader.words('is')) return false;
  const value = readJson(reader);
  if (value === undefined) return reader.miss('a value as JSON');
  const ease = reader.first([() => reader.words(',') && readEase(reader)]) ?? even;
  const way = reader.first([() => readWay(reader)]);
  const lane = laneFor(scene, of);
  const keys = inOrder([...lane.keys, { at, value: value.value, ease, ...(way && { way }) }]);
  const made = laneSchema.safeParse({ ...lane, keys });
  return made.success ? withLane(scene, made.data) : reader.miss(made.error.issues[0].message);
}

/** Reads what stands behind `Marker at`. */
export function readMarker(reader: SentenceReader, scene: Scene): Scene | false {
  const at = reader.number('s', 'a time');
  const name = at === undefined ? null : reader.quoted();
  if (name === null) return reader.miss('a time in s and “a name”');
  const caption = reader.first([
    () => reader.words(',') && reader.words('saying') && (reader.quoted() ?? undefined),
  ]);
  const until = reader.first([() => reader.words(',') && reader.words('until') && reader.number('s')]);
  const id = `marker-${scene.markers.length + 1}`;
  const made = markerSchema.safeParse({ id, at, name, caption: caption ?? '', until: until ?? null });
  return made.success
    ? { ...scene, markers: [...scene.markers, made.data] }
    : reader.miss(made.error.issues[0].message);
}

/** A value as JSON that stands in a sentence; undefined where there is none. */
function readJson(reader: SentenceReader): { value: unknown } | undefined {
  reader.space();
  const begin = reader.at;
  const end = endOfJson(reader.text, begin);
  try {
    const value: unknown = JSON.parse(reader.text.slice(begin, end));
    reader.at = end;
    return { value };
  } catch {
    return undefined;
  }
}

/** Where the value that begins at a place ends: behind its closing bracket or quotation mark, or behind its word. */
function endOfJson(text: string, begin: number): number {
  let depth = 0;
  for (let i = begin; i < text.length; i++) {
    const c = text[i];
    if (c === '"') {
      for (i++; i < text.length && text[i] !== '"'; i++) if (text[i] === '\\') i++;
      if (depth === 0) return i + 1;
    } else if (c === '{' || c === '[') depth++;
    else if (c === '}' || c === ']') {
      depth--;
      if (depth === 0) return i + 1;
    } else if (depth === 0) {
      const [word] = /^[-+.\w]+/.exec(text.slice(i)) ?? [''];
      return i + word.length;
    }
  }
  return text.length;
}
