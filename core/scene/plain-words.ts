import { colourMaps } from '../colour/maps/registry.ts';
import { quantityNames } from '../language/quantity-names.ts';
import { literalPattern } from '../model/literal-pattern.ts';
import { joinBounds } from '../model/mesh.ts';
import { partBounds, type RunDescription, type RunPart } from '../model/run.ts';
import { type OperationSetting, openingWords } from '../ops/chain/operation.ts';
import { operations } from '../ops/registry.ts';
import type { Scene } from './document.ts';
import { plainColours } from './layer-sentence.ts';
import { typedBeginning } from './ready-beginnings.ts';

/**
 * Everyday ways to say a line, rewritten to the words sentences are made of. Nothing here knows the options of an
 * operation: what comes out is read by the same reader as a sentence that was typed in full.
 */

/** "Show me a ..." asks for what follows. */
const asking = /^(?:show|draw|plot|display|make|add)\s+(?:me\s+)?(?:a |an |the )?(?!only|just)/i;

/** Colours people name, beside those of the plain colours here. */
const colours: Record<string, string> = {
  white: '#f4f4f2',
  'light grey': '#c8c8c8',
  grey: '#8c8c8c',
  'dark grey': '#4a4a4a',
  black: '#1e1e1e',
  red: '#b3261e',
  orange: '#d9731a',
  yellow: '#e0b61d',
  green: '#3f7d4e',
  blue: '#2f62a8',
  'light blue': '#8db4dc',
  brown: '#7a4f2a',
};

const bySize = (words: string[]): string =>
  [...words]
    .sort((a, b) => b.length - a.length)
    .map(literalPattern)
    .join('|');

/** What a rewriting may know. */
export interface Around {
  scene: Scene;
  run: RunDescription;
  setting: OperationSetting;
}

type Rewrite = (text: string, around: Around) => string;

/** Each is tried on what those before it made; where it does not apply, it leaves the text alone. */
const rewrites: Rewrite[] = [
  (t) => t.trim().replace(/\s+/g, ' ').replace(/[.!]$/, ''),
  (t) =>
    t
      .replace(/\bgray\b/gi, 'grey')
      .replace(/\bcolor/gi, 'colour')
      .replace(/\bcentimet(?:er|re)s?\b/gi, 'cm')
      .replace(/\bmillimet(?:er|re)s?\b/gi, 'mm')
      .replace(/\bmet(?:er|re)s?\b/gi, 'm'),
  asked,
  inOurWords,
  shownOn,
  partAlone,
  placed,
  colouring,
  scaleWords,
  looks,
  nested,
  laidOn,
  ofParts,
  onlyWhere,
  articles,
  half,
  middle,
  normalThrough,
  everyStep,
  plainValues,
  bareOperation,
];

/** The comma behind which a line says how it looks. */
const LOOKS_FOLLOW = /,(?=\s*(?:coloured|in |at \d|with ))/;

/** The comma behind which it says that, or how what is laid on something else is. */
const SETTINGS_FOLLOW =
  /,(?=\s*(?:coloured|in |at \d|with |\d+ (?:evenly|seeds)|the longest|all as long|along the|as |forward|backward))/;

/** "Recirculation in chamber air", "wall shear": questions of the trade, of which the answer needs no more to be known. */
function asked(t: string, { setting }: Around): string {
  const [question, ...rest] = t.split(LOOKS_FOLLOW);
  const begun = typedBeginning(question, setting);
  if (typeof begun !== 'string') return t;
  // What it looks like is said by whoever asks.
  const plain = rest.length > 0 ? begun.replace(/, in copper$/, '') : begun;
  return [plain, ...rest].join(',');
}

/** Everyday words for the operations, by what each says of itself. */
function inOurWords(t: string): string {
  const wanted = t.replace(asking, '');
  return operations.reduce(
    (text, { everyday, opening }) => (everyday ? text.replace(everyday, opened({ opening })) : text),
    wanted,
  );
}

/** "and colour it by pressure", "showing temperature", "with velocity on it" say what it is coloured by. */
function colouring(t: string, { setting }: Around): string {
  if (/, coloured by |^deformed /i.test(t)) return t;
  const names = bySize(quantityNames(setting).map((q) => q.text));
  const by = t.replace(
    /,?\s*(?:and\s+)?(?:coloured|colour(?:ing)?(?: it| them)?|painted|shaded)\s*(?:by|with|using|according to|of)?\s+(?:the\s+)?/i,
    ', coloured by ',
  );
  if (by !== t) return by;
  return names === ''
    ? t
    : t.replace(
        new RegExp(
          `,?\\s+(?:showing|displaying|with|by)\\s+(?:the\\s+)?(${names})(?=\\s*(?:,|$| on \\w+$))`,
          'i',
        ),
        ', coloured by $1',
      );
}

/** Everyday ways to say how a scale is: "log scale", "with 10 levels", "between 20 and 80", "flipped", "using viridis". */
function scaleWords(t: string): string {
  if (!/, coloured by /i.test(t)) return t;
  const maps = bySize(colourMaps.map((m) => m.name));
  return t
    .replace(
      /,?\s*(?:on|with|in|using)?\s*(?:a\s+)?log(?:arithmic)?(?:\s+colour)?\s+scale\b/i,
      ' by logarithm',
    )
    .replace(/, coloured by (?:the )?parts?(?: names?)?(?=,| |$)/i, ', coloured by part number')
    .replace(/\bbetween (-?[\d.]+) and (-?[\d.]+)/i, 'from $1 to $2')
    .replace(/,?\s*(?:with|using|in) (\d+) (?:levels|colours|steps|bands)\b/i, ' in $1 bands')
    .replace(
      /,?\s*(?:with )?(?:the )?(?:map |colour map |colours )?(?:flipped|inverted|backwards)\b/i,
      ', reversed',
    )
    .replace(
      /,?\s*(?:and )?(?:hide|hiding|without) (?:values |everything |what is )?(above|below)\b/i,
      ', hidden $1',
    )
    .replace(
      /,?\s*(?:without|ignoring|leaving out) (?:the )?(?:extremes|outliers)\b/i,
      ' over the middle 98 %',
    )
    .replace(
      new RegExp(
        `,?\\s*(?:using|with|in) (?:the )?(?:colour map |map )?(${maps})(?: map| colours| colour map)?(?=,|$| )`,
        'i',
      ),
      ' on $1',
    );
}

/** "temperature on a slice of jet", "pressure of jet", "volume of temperature": what is shown stands first. */
function shownOn(t: string, { run, setting }: Around): string {
  const names = bySize(quantityNames(setting).map((q) => q.text));
  const parts = bySize(run.parts.map((p) => p.name));
  if (names === '' || parts === '') return t;
  return t
    .replace(new RegExp(`^(?:the )?(${names}) (?:on|in|over) (.+)$`, 'i'), (_, name: string, on: string) => {
      const inner = inOurWords(on.replace(/^(?:a |the )/i, ''));
      return `${inner}, coloured by ${name}`;
    })
    .replace(new RegExp(`^(?:the )?(${names}) of (?:the )?(${parts})$`, 'i'), 'surface of $2, coloured by $1')
    .replace(
      new RegExp(
        `^(surface|section|clip|volume) of (?:the )?(?!(?:${parts})(?: |,|$))(${names})(?= |,|$)([^,]*)`,
        'i',
      ),
      '$1$3, coloured by $2',
    );
}

/** A part alone is its surface; a part that is cut or where something holds is that part's section or rest. */
function partAlone(t: string, { run }: Around): string {
  const parts = bySize(run.parts.map((p) => p.name));
  if (parts === '') return t;
  return t
    .replace(new RegExp(`^(?:the )?(${parts}) (?:cut|sliced) `, 'i'), 'section of $1 ')
    .replace(
      new RegExp(
        `^(section|clip|surface|isosurface|volume)s? (?:of |in |through )?(?:the )?(${parts})(?= |,|$)`,
        'i',
      ),
      '$1 of $2',
    )
    .replace(
      new RegExp(`^(?:the )?(${parts})(?=,| (?:coloured|colou?r|in|with|seen|at \\d)|$)`, 'i'),
      'surface of $1',
    );
}

/** "z 0.5", "z: 0.5", "on z = 0.5", "where z = 0.5" say where a section is. */
function placed(t: string): string {
  return t
    .replace(/^section ([xyz]) /i, 'section at $1 ')
    .replace(/^(section\b.*?) (?:on|where|with|in) ([xyz])(?=\s*[:=\d-])/i, '$1 at $2')
    .replace(/^(section\b.*? at [xyz])\s*:?\s*(?=[-\d.])/i, '$1 = ')
    .replace(/\b(mirror(?:ed)?\b[^,]*?) (?:across|about|at|in) ([xyz])(?=,|$)/i, '$1 at $2 = 0')
    .replace(
      /\b(mirror(?:ed)?\b[^,]*?) (?:across|about|in) ([xyz])\s*(?:=|at)?\s*(?=[-−.\d])/i,
      '$1 at $2 = ',
    )
    .replace(/^(clip of [^,]+?) (?:at|where) ([xyz])\s*([<>])/i, '$1 to $2 $3')
    .replace(/^(clip of [^,]+?) (?:at|where) ([xyz])\s*=/i, '$1 to $2 >')
    .replace(
      /^(deformed shape of [^,]+? by [^,]+?)(?= coloured|,|$)(?<! factor)(?<! scale)(?<!\d)/i,
      '$1 times an automatic factor',
    );
}

/** Transparency, plain colours and edges, with a comma before them. */
function looks(t: string): string {
  const names = bySize(Object.keys(colours));
  return t
    .replace(
      /,?\s*(?:and\s+)?(\d+(?:\.\d+)?)\s*(?:%|percent)\s+(?:transparent|see-through)/i,
      (_, n) => `, at ${100 - Number(n)} % opacity`,
    )
    .replace(/,?\s*(?:and\s+)?(\d+(?:\.\d+)?)\s*(?:%|percent)\s+opaque/i, ', at $1 % opacity')
    .replace(
      /,?\s*(?:and\s+)?(?:half[- ]transparent|semi-?transparent|translucent|see-through|transparent)\b/i,
      ', at 50 % opacity',
    )
    .replace(/,?\s*with (?:its |the )?(?:mesh edges|mesh lines|mesh|wireframe)\b/i, ', with edges')
    .replace(
      /,?\s*opacity(?: of)? (?:0?\.(\d+)|(\d+(?:\.\d+)?) ?%)/i,
      (_, part?: string, whole?: string) =>
        `, at ${part === undefined ? whole : Number((100 * Number(`0.${part}`)).toPrecision(6))} % opacity`,
    )
    .replace(/([^,\s])\s+(at \d+(?:\.\d+)? % opacity)/i, '$1, $2')
    .replace(/([^,\s])(?:,?\s+and)?\s+(with edges|seen from inside|hidden)\b/i, '$1, $2')
    .replace(new RegExp(`^(${names}) surface of ([^,]+)`, 'i'), 'surface of $2, $1')
    .replace(/^(?:transparent|translucent) surface of ([^,]+)/i, 'surface of $1, at 50 % opacity')
    .replace(/^, at 50 % opacity surface of ([^,]+)/i, 'surface of $1, at 50 % opacity')
    .replace(new RegExp(`,\\s*(${names})(?=,|$)`, 'i'), ', in $1')
    .replace(new RegExp(`([^,\\s])\\s+in (${bySize(plainColours.map((c) => c.name))})\\b`, 'i'), '$1, in $2')
    .replace(
      new RegExp(`,?\\s+(?:in|as|coloured by)\\s+(?:a\\s+)?(${names})\\b`, 'i'),
      (_, name: string) => `, in ${colours[name.toLowerCase()]}`,
    );
}

/** "contour lines of T on section of air at z = 1": the inner one comes first, the outer one follows on it. */
function nested(t: string, around: Around): string {
  const { setting, scene } = around;
  const outer = /^contour lines(?: of ([^,]+?))?((?: at| every)\b[^,]*?)?\s+on\s+(?:a |the )?(.+)$/i.exec(t);
  if (!outer) return t;
  const [, what, levels, on] = outer;
  const lines = `contour lines of ${what ?? setting.preferred?.name ?? ''}${levels ?? ''}`;
  const [inner, ...rest] = inOurWords(on).split(LOOKS_FOLLOW);
  // "on the section" is the line that is one.
  const only = /^\w+( \w+)?$/.exec(inner.trim()) ? lineOfOperation(inner.trim(), scene) : null;
  if (only) return [`surface of ${only}, its ${lines}`, ...rest].join(',');
  const [, surface, behind] = /^(surface of [^,]+?) (at [-\d].*)$/i.exec(inner) ?? [];
  if (surface) return [`${surface}, its ${lines} ${behind}`, ...rest].join(',');
  const parts = ['everything', ...around.run.parts.map((p) => p.name.toLowerCase())];
  // "contour lines of T on everything at 120".
  const [, source, at] = /^(.+?)( at [-−\d].*)$/i.exec(inner) ?? [];
  if (source && parts.includes(source.toLowerCase()))
    return [`surface of ${source}, its ${lines}${at}`, ...rest].join(',');
  if (parts.includes(inner.trim().toLowerCase()))
    return [`surface of ${inner.trim()}, its ${lines}`, ...rest].join(',');
  if (!operations.some((o) => inner.toLowerCase().startsWith(o.opening.trim().toLowerCase()))) return t;
  return [`${inner}, its ${lines}`, ...rest].join(',');
}

/** "arrows of velocity on a section of air at z = 1", "flow texture on jet": these follow on what they are laid on. */
function laidOn(t: string, { run, setting }: Around): string {
  const names = bySize(quantityNames(setting).map((q) => q.text));
  const outer = operations.find((o) => t.toLowerCase().startsWith(`${opened(o)} `));
  if (!outer || outer.opening.endsWith(' on ')) return t;
  const said = new RegExp(`^ (?:(?:of|by|for) (?:the )?(${names}) )?on (?:a |the |an )?(.+)$`, 'i');
  const [, what, on] = said.exec(t.slice(opened(outer).length)) ?? [];
  if (!on) return t;
  const [inner, ...rest] = inOurWords(on).split(SETTINGS_FOLLOW);
  const isPart = run.parts.some((p) => p.name.toLowerCase() === inner.trim().toLowerCase());
  if (!isPart && !operations.some((o) => inner.toLowerCase().startsWith(`${opened(o)} `))) return t;
  const first = isPart ? `surface of ${inner.trim()}` : inner.trim();
  return [`${first}${outer.joining}${what ? ` by ${what}` : ''}`, ...rest].join(',');
}

/** "deposits of droplets on walls", "from part droplets": parts that are read beside another, without quotation marks. */
function ofParts(t: string, { run }: Around): string {
  const parts = bySize(run.parts.map((p) => p.name));
  if (parts === '') return t;
  return t
    .replace(
      new RegExp(`^deposits (?:of|from) (?:the )?(${parts}) on (?:the )?([^,]+)`, 'i'),
      'deposits on $2 from part “$1”',
    )
    .replace(
      new RegExp(`\\b(deposits(?: on [^,“]+?)?) (?:of|from) (?:the )?(${parts})(?=,| |$)`, 'i'),
      '$1 from part “$2”',
    )
    .replace(
      new RegExp(`\\bfrom (?:the )?(?:part|points of|places of) (?:the )?(${parts})(?=,| |$)`, 'i'),
      'from part “$1”',
    );
}

const opened = (operation: { opening: string }): string => openingWords(operation).toLowerCase();

/** The one line that ends with an operation, as sentences call it. */
function lineOfOperation(word: string, scene: Scene): string | null {
  const operation = operations.find((o) => o.name.toLowerCase() === word.toLowerCase());
  const found = scene.layers.filter((l) => operation && l.chain.at(-1)?.op === operation.id);
  return found.length === 1 ? `line ${scene.layers.indexOf(found[0]) + 1}` : null;
}

/** "show only where T > 200", "tins where velocity < 1 and z > 0.4" keep what meets a condition. */
function onlyWhere(given: string): string {
  const t = given.replace(/^hide (?:everything |all )?where ([^,]+)/i, 'only where not ($1)');
  if (/^(?:section|clip|isosurface)\b/i.test(t)) return t;
  const only =
    /^(?:show |keep |display |draw )?(?:only |just )?(.*?)\s*\bwhere\s+(?![“"])([^,]*[<>≤≥=][^,]*)(,.*)?$/i.exec(
      t,
    );
  if (!only) return t;
  const [, before, condition, rest = ''] = only;
  const named = before.replace(/^(?:what is kept of|the )\s*/i, '');
  const byPoints = /^(?:points|particles)\b/i.test(named) ? ' by points' : '';
  const source = named
    .replace(/^(?:cells|elements|points|particles) (?:of|in) (?:the )?/i, '')
    .replace(/^(?:cells|elements|points|particles|parts|that|everything)$/i, '');
  return `what is kept of ${source || 'everything'} where “${condition.trim()}”${byPoints}${rest}`;
}

/** Parts are named without an article. */
function articles(t: string): string {
  return t.replace(
    /\b(of|on|half of|through|surface|section|clip|volume|isosurface) (?:the |a |an |all of the )/gi,
    '$1 ',
  );
}

/** "clip half of jet at y = 0.12" is one side of a plane. */
function half(t: string): string {
  return t
    .replace(/^clip (?:away )?half of ([^,]+?) at ([xyz]) = /i, 'clip of $1 to $2 > ')
    .replace(/^(?:half|one half|one side) of ([^,]+?) at ([xyz]) = /i, 'clip of $1 to $2 > ')
    .replace(/^clip ([^,]+?) at ([xyz]) ([<>=]) /i, (all, source: string, axis: string, sign: string) =>
      /^(?:of|to)\b/.test(source) ? all : `clip of ${source} to ${axis} ${sign === '=' ? '>' : sign} `,
    )
    .replace(/^clip ([^,]+?) (?:at|to|where) ([xyz]) /i, (all, source: string, axis: string) =>
      /^of\b/.test(source) ? all : `clip of ${source} to ${axis} `,
    );
}

/** "section through the middle of jet" is where its box has its middle, across its longest side or the axis named. */
function middle(t: string, { run }: Around): string {
  const through =
    /^section (?:of ([^,]+?) )?(?:through|at|in) (?:the )?(?:middle|centre|center)(?: of ([^,]+?))?(?: (?:in|along|across|normal to) ([xyz]))?(,.*)?$/i.exec(
      t,
    );
  if (!through) return t;
  const [, first, second, axis, rest = ''] = through;
  const name = first ?? second;
  const parts = run.parts.filter(
    (p: RunPart) =>
      !name || name.toLowerCase() === 'everything' || p.name.toLowerCase() === name.toLowerCase(),
  );
  if (parts.length === 0) return t;
  const box = parts.map(partBounds).reduce(joinBounds);
  const sizes = [0, 2, 4].map((k) => box[k + 1] - box[k]);
  const k = axis ? 'xyz'.indexOf(axis.toLowerCase()) : sizes.indexOf(Math.min(...sizes.filter((s) => s > 0)));
  const at = Number(((box[2 * k] + box[2 * k + 1]) / 2).toPrecision(6));
  return `section of ${name ?? 'everything'} at ${'xyz'[k]} = ${at}${rest}`;
}

/** "normal to (1, 1, 0) through (0.3, 0.1, 0)": a plane by its normal and its distance from the origin along it. */
function normalThrough(t: string): string {
  const numbers = '\\(\\s*([-\\d.e]+)\\s*,\\s*([-\\d.e]+)\\s*,\\s*([-\\d.e]+)\\s*\\)';
  return t
    .replace(
      new RegExp(`(?:normal|perpendicular) to ${numbers} (?:through|at) ${numbers}`, 'i'),
      (_, ...found: string[]) => {
        const [a, b, c, x, y, z] = found.slice(0, 6).map(Number);
        const distance = (a * x + b * y + c * z) / Math.hypot(a, b, c);
        return `across (${a}, ${b}, ${c}) at ${Number(distance.toPrecision(12))}`;
      },
    )
    .replace(/(?:normal|perpendicular) to ([xyz]) (?:through|at) /i, 'at $1 = ');
}

/** "every 0.05": levels at whole multiples within the range of the quantity. */
function everyStep(t: string, { setting }: Around): string {
  const names = quantityNames(setting);
  const every = new RegExp(
    `(contour lines|isosurface) of (${bySize(names.map((n) => n.text))}) every ([\\d.]+)[^,\\d]*`,
    'i',
  );
  return t.replace(every, (all, kind: string, name: string, by: string) => {
    const quantity = names.find((n) => n.text.toLowerCase() === name.toLowerCase())?.value;
    const step = Number(by);
    if (!quantity || !(step > 0) || (quantity.high - quantity.low) / step > 200) return all;
    const levels: number[] = [];
    for (let n = Math.ceil(quantity.low / step); n * step <= quantity.high; n++)
      levels.push(Number((n * step).toPrecision(10)));
    return levels.length > 0 ? `${kind} of ${name} at ${levels.join(', ')}` : all;
  });
}

/** "isosurface at 100, 150 °C" without a quantity is of temperature where that is what the unit says, else of what is shown. */
function plainValues(t: string, { setting }: Around): string {
  if (!setting.preferred) return t;
  return t
    .replace(/^isosurface (?!of |at |for )/i, 'isosurface of ')
    .replace(/^isosurface (?:at|for|of) (?=[-\d])/i, `isosurface of ${setting.preferred.name} at `)
    .replace(/(contour lines of [^,]+?)(?=,|$)/i, (all: string) => {
      if (/ at /.test(all)) return all;
      const quantity = quantityNames(setting).find(
        (n) => n.text.toLowerCase() === all.slice('contour lines of '.length).trim().toLowerCase(),
      )?.value;
      if (!quantity) return all;
      return `${all.trim()} at 9 levels from ${Number(quantity.low.toPrecision(6))} to ${Number(quantity.high.toPrecision(6))}`;
    })
    .replace(/(isosurface of [^,=]+?) = /i, '$1 at ');
}

/** An operation of which nothing is said but its source is as it usually is. */
function bareOperation(t: string, { setting }: Around): string {
  for (const operation of operations) {
    const opening = operation.opening.trim();
    if (!t.toLowerCase().startsWith(`${opening.toLowerCase()} `)) continue;
    const [source, ...rest] = t.slice(opening.length + 1).split(LOOKS_FOLLOW);
    if (source.trim() === '' || / (?:at|to|where|by|on|across|of) /i.test(` ${source} `)) continue;
    const said = operation.phrase.say(operation.defaults(setting), { ...setting, exact: true });
    if (said)
      return [`${opening} ${source.trim()}${said.map((piece) => piece.text).join('')}`, ...rest].join(',');
  }
  return t;
}

/** The text as it may have been meant, from the nearest to what was typed to the farthest; without the text itself. */
export function plainReadings(text: string, around: Around): string[] {
  const out: string[] = [];
  let current = text;
  for (const rewrite of rewrites) {
    current = rewrite(current, around);
    if (current !== text && !out.includes(current)) out.push(current);
  }
  return out;
}
