import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { type RenderOptions, renderScene } from './render.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-render-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** What is said of an order that cannot be carried out. */
async function refused(scene: string, more: Partial<RenderOptions>): Promise<string> {
  const said = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  try {
    const size = { width: 64, height: 64 };
    const out = join(folder, 'out');
    expect(await renderScene(scene, { run: ['none.vtu'], out, size, passes: 1, ...more })).toBe(1);
    return said.mock.calls.flat().join('\n');
  } finally {
    said.mockRestore();
  }
}

describe('an order of pictures that cannot be carried out', () => {
  it('of bodies in layers is refused before anything is read or made', async () => {
    const said = await refused('default', { as: 'usdz', layers: true });
    expect(said).toContain('"usdz" holds bodies');
    expect(said).toContain('where: --layers');
    expect(said).toContain('what to do: Leave --layers away');
    expect(existsSync(join(folder, 'out'))).toBe(false);
  });
  it('of a scene that is not there says so', async () => {
    const missing = join(folder, 'missing.json');
    expect(await refused(missing, {})).toContain(missing);
  });
});
