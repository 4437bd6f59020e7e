import { elementSymbol } from '../cells/elements.ts';
import type { PartToWrite } from '../part-to-write.ts';

/** Writes one frame of extended XYZ: points as atoms, fields on them as properties. */
export function writeXyz({ mesh, fields }: PartToWrite, time: number | null): Uint8Array {
  const onPoints = fields.filter((f) => f.location === 'point' && f.name !== 'position');
  const species = onPoints.find((f) => f.name === 'species' && f.components === 1);
  const others = onPoints.filter((f) => f !== species);
  const name = (text: string): string => text.replace(/[^\w]+/g, '_');
  const properties = [
    'species:S:1',
    'pos:R:3',
    ...others.map((f) => `${name(f.name)}:R:${f.components}`),
  ].join(':');
  const n = mesh.points.length / 3;
  const lines = [String(n), `Properties=${properties}${time === null ? '' : ` time=${time}`}`];
  for (let p = 0; p < n; p++) {
    const words: (string | number)[] = [
      species ? (elementSymbol(species.data[p]) ?? `X${species.data[p]}`) : 'X',
    ];
    for (let k = 0; k < 3; k++) words.push(mesh.points[3 * p + k]);
    for (const f of others) for (let k = 0; k < f.components; k++) words.push(f.data[p * f.components + k]);
    lines.push(words.join(' '));
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
