import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ovenSteps } from '../tests/sample-run.ts';
import { readSentences } from './read.ts';

describe('dresser read', () => {
  let folder = '';
  let printed: string[] = [];
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'dresser-read-'));
    printed = [];
    for (const way of ['log', 'error'] as const)
      vi.spyOn(console, way).mockImplementation((text: string) => void printed.push(text));
  });
  afterEach(() => {
    vi.restoreAllMocks();
    rmSync(folder, { recursive: true });
  });
  const oven = (): string => {
    writeFileSync(join(folder, 'oven.vtu'), ovenSteps()[0].parts.oven);
    return join(folder, 'oven.vtu');
  };

  it('prints how sentences are understood, as JSON', async () => {
    expect(
      await readSentences([oven()], ['slice at z = 40 cm', 'surface of oven coloured by steam'], true),
    ).toBe(1);
    const { lines } = JSON.parse(printed.join(''));
    expect(lines).toEqual([
      {
        text: 'slice at z = 40 cm',
        understood: true,
        sentence: expect.stringMatching(/^Section of (everything|oven) at z = 0.4 m/),
        layer: expect.objectContaining({ chain: [expect.objectContaining({ op: 'section' })] }),
      },
      expect.objectContaining({ understood: false, at: expect.any(Number), reason: expect.any(String) }),
    ]);
  });
  it('prints them in words, and is content when all are understood', async () => {
    expect(await readSentences([oven()], ['surface of the oven'], false)).toBe(0);
    expect(printed.join('\n')).toMatch(/surface of the oven\n {2}is read as: Surface of oven/);
    printed = [];
    expect(await readSentences([oven()], ['surface of kitchen'], false)).toBe(1);
    expect(printed.join('\n')).toMatch(/\n {11}\^ "kitchen" is not understood here/);
  });
  it('says what is wrong with files that hold no run', async () => {
    writeFileSync(join(folder, 'empty.vtu'), '');
    expect(await readSentences([join(folder, 'empty.vtu')], ['surface of oven'], true)).toBe(1);
    expect(printed.join('\n')).toMatch(/the file is empty/);
  });
});
