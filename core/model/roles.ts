/** What a field means for the job, guessed from its name and number of components. Common practice, no source. */
export const fieldRoles = [
  'temperature',
  'velocity',
  'relative velocity',
  'displacement',
  'pressure',
  'stress',
  'strain',
  'density',
  'heat flux',
  'fraction',
  'distance',
  'diameter',
  'mass',
  'identifier',
  'other',
] as const;

export type FieldRole = (typeof fieldRoles)[number];

const scalar = (n: number): boolean => n === 1;
const vector = (n: number): boolean => n === 2 || n === 3;

const rules: [FieldRole, RegExp, (components: number) => boolean][] = [
  [
    'identifier',
    /(^|[_ ])(ids?|labels?|ghosttype|region|material|piece|rank|partition|type|species|element|group|physical|geometrical)$|^(global|node|cell|element|object)(node|cell|point|element)?ids?$|vtkghosttype/i,
    scalar,
  ],
  ['temperature', /^t(emp(erature)?)?([_ [(]|$)|temperature/i, scalar],
  ['relative velocity', /^(u|v|w)_?rel([_ [(]|$)|rel(ative)?[_ ]?vel|vel(ocity)?[_ ]?rel/i, vector],
  ['velocity', /^(u|v|vel(ocity|o)?)([_ [(]|$)|velocity/i, vector],
  ['displacement', /^(d|disp?(lacement)?s?)([_ [(]|$)|displacement/i, vector],
  ['pressure', /^p(ress(ure)?)?([_ [(]|$)|pressure/i, scalar],
  ['strain', /strain|^epsilon/i, () => true],
  ['stress', /stress|mises|^sigma/i, () => true],
  ['density', /^rho([_ [(]|$)|density/i, scalar],
  ['heat flux', /heat[_ ]?flux|^flux$/i, () => true],
  ['distance', /signed[_ ]?dist|^sdf$|level[_ ]?set|^phi$|distance/i, scalar],
  ['fraction', /^(alpha|fraction|vof|saturation)([._ ]|$)|volume[_ ]?fraction/i, scalar],
  ['diameter', /^d(ia(meter)?)?([_ [(]|$)|diameter/i, scalar],
  ['mass', /^mass([_ [(]|$)/i, scalar],
];

export function guessRole(name: string, components: number): FieldRole {
  return rules.find(([, pattern, fits]) => pattern.test(name) && fits(components))?.[0] ?? 'other';
}

/** Which half of a complex quantity a field is, and the key of the other half. */
export interface FieldPair {
  half: 'real' | 'imaginary' | 'amplitude' | 'phase';
  of: string;
  other: string;
}

const halves: [RegExp, FieldPair['half'], FieldPair['half']][] = [
  [/^(.*?)[_. (]*(?:re|real)\)?$/i, 'real', 'imaginary'],
  [/^(.*?)[_. (]*(?:im|imag|imaginary)\)?$/i, 'imaginary', 'real'],
  [/^(.*?)[_. (]*(?:amp|amplitude|mag|abs)\)?$/i, 'amplitude', 'phase'],
  [/^(.*?)[_. (]*(?:phase|arg|ang|angle)\)?$/i, 'phase', 'amplitude'],
];

/** The halves of complex quantities among fields, by key: `E_re` with `E_im`, `E_amplitude` with `E_phase`. */
export function complexPairs(
  fields: { key: string; name: string; components: number }[],
): Map<string, FieldPair> {
  const found = fields.flatMap((f) => {
    const location = f.key.slice(0, f.key.indexOf(':'));
    return halves.flatMap(([pattern, half, other]) => {
      const base = pattern.exec(f.name)?.[1];
      return base ? [{ f, half, other, base, id: `${location}:${base}:${f.components}` }] : [];
    });
  });
  const out = new Map<string, FieldPair>();
  for (const a of found) {
    const b = found.find((c) => c.id === a.id && c.half === a.other);
    if (b) out.set(a.f.key, { half: a.half, of: a.base, other: b.f.key });
  }
  return out;
}

/** Fields that are named as half of a complex quantity whose other half is not there. */
export function loneHalves(
  fields: { name: string; pair: FieldPair | null }[],
): { name: string; lacks: FieldPair['half']; such: string }[] {
  return fields.flatMap(({ name, pair }) => {
    // Words such as "phase" alone mean other things as well; behind a stroke they mean a half.
    const [, base, half] = pair ? [] : (/^(.+)_(re|real|im|imag|imaginary|phase|arg)$/i.exec(name) ?? []);
    if (!base) return [];
    const { lacks, ending } = others[half.toLowerCase()[0]];
    return [{ name, lacks, such: `${base}_${ending}` }];
  });
}

/** What stands beside a half, by the first letter of its ending. */
const others: Record<string, { lacks: FieldPair['half']; ending: string }> = {
  r: { lacks: 'imaginary', ending: 'im' },
  i: { lacks: 'real', ending: 're' },
  p: { lacks: 'amplitude', ending: 'amplitude' },
  a: { lacks: 'amplitude', ending: 'amplitude' },
};

/** The unit a name states in brackets, or null: `speed [m/s]`, `time (s)`. */
export function unitInName(name: string): string | null {
  return (
    /\[([^\]]+)\]\s*$/.exec(name)?.[1].trim() ??
    /\(((?:[kMGmcµunpd]?(?:m|s|g|K|Pa|N|J|W|Hz|A|V|T|rad|mol|bar|L))(?:[\^*·/ ]?-?[\w^]+)*|°C|degC|deg|%|1|-)\)\s*$/.exec(
      name,
    )?.[1] ??
    null
  );
}

/** Axial vectors: a mirror turns them the other way than it turns arrows. Common practice, no source. */
export const isAxial = (name: string, components: number): boolean =>
  components === 3 && /vortic|curl|torque|moment(?!um)|angular|rotation|magnetic/i.test(name);
