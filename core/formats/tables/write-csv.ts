import type { PartToWrite } from '../part-to-write.ts';

/** A name as an entry; spreadsheets would take one that begins like a formula for a command. */
const quoted = (name: string): string => {
  const text = /^[=+@-]/.test(name) ? `'${name}` : name;
  return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** Writes the points of a part with the fields on them: a row for each, commas, units in the names. */
export function writeCsv({ mesh, fields }: PartToWrite): Uint8Array {
  const onPoints = fields.filter((f) => f.location === 'point');
  const names = [
    'x',
    'y',
    'z',
    ...onPoints.flatMap((f) =>
      Array.from({ length: f.components }, (_, k) => {
        const part = f.components === 1 ? '' : `_${f.components <= 3 ? 'xyz'[k] : k + 1}`;
        return `${f.name}${part}${f.unit ? ` [${f.unit}]` : ''}`;
      }),
    ),
  ];
  const rows = [names.map(quoted).join(',')];
  for (let p = 0; p < mesh.points.length / 3; p++) {
    const row: number[] = [mesh.points[3 * p], mesh.points[3 * p + 1], mesh.points[3 * p + 2]];
    for (const f of onPoints) for (let k = 0; k < f.components; k++) row.push(f.data[p * f.components + k]);
    rows.push(row.join(','));
  }
  return new TextEncoder().encode(`${rows.join('\n')}\n`);
}
