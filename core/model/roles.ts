/** What a field means for the job, guessed from its name and number of components. Common practice, no source. */
export type FieldRole =
  | 'temperature'
  | 'velocity'
  | 'displacement'
  | 'pressure'
  | 'stress'
  | 'density'
  | 'identifier'
  | 'other';

const rules: [FieldRole, RegExp, (components: number) => boolean][] = [
  [
    'identifier',
    /(^|_)(ids?|label|ghosttype|region|material|piece|rank|partition)$|globalnodeid|globalcellid|vtkghosttype/i,
    (n) => n === 1,
  ],
  ['temperature', /^t(emp(erature)?)?([_ [(]|$)|temperature/i, (n) => n === 1],
  ['velocity', /^(u|v|vel(ocity)?)([_ [(]|$)|velocity/i, (n) => n === 2 || n === 3],
  ['displacement', /^(d|disp(lacement)?s?)([_ [(]|$)|displacement/i, (n) => n === 2 || n === 3],
  ['pressure', /^p(ressure)?([_ [(]|$)|pressure/i, (n) => n === 1],
  ['stress', /stress|mises|^sigma/i, () => true],
  ['density', /^rho([_ [(]|$)|density/i, (n) => n === 1],
];

export function guessRole(name: string, components: number): FieldRole {
  return rules.find(([, pattern, fits]) => pattern.test(name) && fits(components))?.[0] ?? 'other';
}
