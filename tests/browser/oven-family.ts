import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';

export interface OvenCase {
  /** In revolutions per minute. */
  fan: number;
  /** In degrees. */
  vent: number;
  /** Its name in the folder `runs`. */
  file: string;
}

const FANS = [600, 900, 1200, 1500, 1800, 2100];
const VENTS = [0, 15, 30, 45];

/** Ovens of six fan speeds by four positions of the vent, as files in a folder that is gone in the end. */
export class OvenFamily {
  readonly folder = mkdtempSync(join(tmpdir(), 'dresser-family-'));
  readonly cases: readonly OvenCase[] = FANS.flatMap((fan) =>
    VENTS.map((vent) => ({ fan, vent, file: `oven_${fan}_${vent}.vtu` })),
  );

  constructor() {
    mkdirSync(this.at('runs'));
    for (const one of this.cases) this.write(one);
  }

  /** Where something of the folder is. */
  at(...names: string[]): string {
    return join(this.folder, ...names);
  }

  /** The temperature of a run goes from here to six more. */
  coldest({ fan, vent }: Pick<OvenCase, 'fan' | 'vent'>): number {
    return 20 + fan / 300 - vent / 15;
  }

  /** Writes the file of a run, which may be of another speed than its name says. */
  write({ file, ...of }: OvenCase): void {
    const mesh = hexBlock(3);
    const low = this.coldest(of);
    writeFileSync(
      this.at('runs', file),
      writeVtu(mesh, [temperature(mesh, (x, y, z) => low + x + 2 * y + 3 * z)], null),
    );
  }

  gone(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }
}
