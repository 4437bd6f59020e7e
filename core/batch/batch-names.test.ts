import { describe, expect, it } from 'vitest';
import { batchNames, type NamedItem, nameCompletions, USUAL_NAMES } from './batch-names.ts';

const item = (change: Partial<NamedItem> = {}): NamedItem => ({
  shot: 'Front',
  run: 'case 1',
  parameters: { fan: 900, tin: 'steel' },
  step: 3,
  time: 7.5,
  timeUnit: 's',
  width: 1280,
  height: 720,
  look: null,
  ending: 'png',
  ...change,
});
const names = (template: string, ...items: NamedItem[]) => batchNames(template, items).names;
const troubles = (template: string, ...items: NamedItem[]) => batchNames(template, items).troubles;

describe('names of the files of a batch', () => {
  it('tell shot, run, step, time, size, look, number and parameters, as they are wished', () => {
    expect(names(USUAL_NAMES, item())).toEqual(['case-1/Front.png']);
    expect(names('{number:03d}_{shot}_{step:02d}_{time in ms:.0f}ms', item())).toEqual([
      '001_Front_03_7500ms.png',
    ]);
    expect(names('{fan:.0f}rpm {tin} {width}x{height} {look}', item({ look: 'night' }))).toEqual([
      '900rpm-steel-1280x720-night.png',
    ]);
    const own = item({ parameters: { step: 9 }, ending: 'jpg' });
    expect(names('{step}-{parameter step}.{format}', own)).toEqual(['3-9.jpg.jpg']);
  });

  it('lie in folders, and nowhere else than below the one they go into', () => {
    expect(names('{run}/{shot}', item({ run: '../../etc', shot: 'a/b\\c' }))).toEqual(['etc/a-b-c.png']);
    expect(names('/{shot}//', item())).toEqual(['Front.png']);
    expect(names('..', item())).toEqual(['picture.png']);
  });

  it('are never those of two files, and it is told what would tell them apart', () => {
    const steps = [1, 2, 3].map((step) => item({ step, time: step }));
    expect(names('{shot}', ...steps)).toEqual(['Front.png', 'Front-2.png', 'Front-3.png']);
    expect(troubles('{shot}', ...steps)).toEqual([
      '3 files would be called “Front.png”: a number is put behind them. {step} tells them apart.',
    ]);
    expect(troubles('{shot} {step}', ...steps)).toEqual([]);
    // In capitals or not they are one file on many systems; of two formats they are two everywhere.
    expect(names('{shot}', item(), item({ shot: 'FRONT' }), item({ ending: 'jpg' }))).toEqual([
      'Front.png',
      'FRONT-2.png',
      'Front.jpg',
    ]);
    expect(troubles('{shot}', item({ parameters: { fan: 1 } }), item({ parameters: { fan: 2 } }))[0]).toMatch(
      /\{fan\} tells them apart/,
    );
    expect(troubles('{shot}', item(), item())[0]).toMatch(/\{number\} tells them apart/);
  });

  it('of a template that is not understood say what is wrong, and the files are named all the same', () => {
    expect(troubles('{shott}', item())).toEqual(['There is no value “shott”. Type { to see what there is.']);
    expect(troubles('{sho}', item())[0]).toMatch(/Did you mean \{shot\}\?/);
    expect(troubles('{step:wide}', item())[0]).toMatch(/“wide” is no way to write a number/);
    expect(troubles('{time in kg}', item())[0]).toMatch(/“time” is in s, which cannot be said in “kg”/);
    expect(troubles('  ', item())).toEqual(['Files need a name. Type one, for example {run}/{shot}.']);
    expect(names('{shott}', item())).toEqual(['shott.png']);
    expect(batchNames('{shot}', [])).toEqual({ names: [], troubles: [] });
  });

  it('are completed as one types', () => {
    const offered = nameCompletions('{run}/{s', 8, [item()])!;
    expect(offered.map((c) => c.word.name)).toEqual(['shot', 'step']);
    expect(offered[0].text).toBe('{run}/{shot}');
    expect(nameCompletions('{run}/', 6, [item()])).toBeNull();
  });
});
