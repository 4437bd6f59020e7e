import { describe, expect, it } from 'vitest';
import { ReadError } from '#core/model/read-error.ts';
import { baseDrops } from '../attack/base-files.ts';
import { damage, pick, seeded } from '../attack/damage.ts';
import { mainFile, readAll } from '../attack/read-all.ts';

const VARIANTS = 100;
const drops = baseDrops().filter((drop) => mainFile(drop) !== null);

/** Each must be read or be refused with a reason, a place and a remedy, in little time and memory. */
describe('damaged files are read or refused', () => {
  for (const [nth, drop] of drops.entries()) {
    it(drop.name, async () => {
      const main = mainFile(drop)!;
      expect(await readAll(drop, main, drop.files[main])).toHaveProperty('digest');
      const random = seeded(1000 + nth);
      for (let n = 0; n < VARIANTS; n++) {
        const target = pick(drop.targets, random);
        const begin = performance.now();
        const end = await readAll(drop, target, damage(drop.files[target], random));
        expect(performance.now() - begin, `variant ${n} took long`).toBeLessThan(5000);
        if (!(end instanceof ReadError)) continue;
        expect(Math.min(end.reason.length, end.remedy.length), `variant ${n}`).toBeGreaterThan(5);
        expect(end.where, `variant ${n}`).not.toBe('');
      }
      expect(process.memoryUsage().rss).toBeLessThan(3 * 2 ** 30);
    }, 60_000);
  }
});

/** Places where a file may end: anywhere in one of bytes, behind a line in one of text. */
function ends(bytes: Uint8Array): number[] {
  const text = !bytes.subarray(0, 4000).includes(0) && !bytes.some((b) => b > 126);
  const all = Array.from(bytes, (_, i) => i + 1).filter((i) => !text || bytes[i - 1] === 10);
  const stride = Math.max(1, Math.floor(all.length / 150));
  // Nothing behind the last place but blanks: the file is whole there.
  let last = bytes.length;
  while (last > 0 && bytes[last - 1] <= 32) last--;
  return all.filter((to, i) => i % stride === 0 && to < last);
}

const rest = (bytes: Uint8Array, from: number): string =>
  Buffer.from(bytes.subarray(from, from + 40)).toString('latin1');

describe('a file that is cut off never passes for a whole one', () => {
  /** Formats in which a file that ends after any line is a whole file: nothing in it tells. */
  const openEnded = /\.(csv|obj)$/;
  /** What may be missing at the end, for it is complete in itself: frames of atoms, sections, arrays of fields. */
  const optional = /^(\s*\d+\nLattice|ITEM: TIMESTEP|\$(Node|Element)Data|\s*(POINT_DATA|CELL_DATA)\b)/;
  /** What stands before the cut is shown here. */
  const partly =
    'atoms.xyz atoms.dump brick.frd sets.e level-3.nc mixed-22.msh mixed-51.vtk mixed.vtu tin-ascii.stl'.split(
      ' ',
    );
  for (const drop of drops) {
    if (openEnded.test(drop.name)) continue;
    it(drop.name, async () => {
      const main = mainFile(drop)!;
      const whole = await readAll(drop, main, drop.files[main]);
      if (whole instanceof ReadError) throw whole;
      const silent: number[] = [];
      let shown = 0;
      const hdf5 = /\.cgns$|-4\.nc$|^mixed\.e$/.test(drop.name);
      for (const to of ends(drop.files[main])) {
        const end = await readAll(drop, main, drop.files[main].slice(0, to));
        // The library opens no HDF5 file that is cut off: what of it could be had stands at its end.
        if (hdf5 && to > 2000 && to < drop.files[main].length)
          expect(end instanceof ReadError && end.reason).toMatch(/cut off: \d+ of its \d+ bytes/);
        if (end instanceof ReadError || end.kind !== whole.kind) continue;
        const told = end.told.filter((t) => !whole.told.includes(t));
        if (told.length > 0) shown++;
        else if (end.digest !== whole.digest && !optional.test(rest(drop.files[main], to))) silent.push(to);
      }
      expect(silent).toEqual([]);
      if (partly.includes(drop.name)) expect(shown).toBeGreaterThan(5);
    }, 60_000);
  }
});
