import { describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { importSteps, ovenRun } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { defaultScene } from './default-scene.ts';
import { explainSentence, openQuestion } from './explain-sentence.ts';
import { readLayer } from './read-layer.ts';
import { readyBeginnings, typedBeginning } from './ready-beginnings.ts';
import { settingOf } from './setting.ts';

async function flowRun() {
  const mesh = hexBlock(3);
  const data = new Float32Array(mesh.points.length);
  for (let i = 0; i < data.length; i += 3) data.set([1 - mesh.points[i + 1], 0.2, mesh.points[i]], i);
  const bytes = writeVtu(
    mesh,
    [{ name: 'velocity', location: 'point', components: 3, unit: 'm/s', data }],
    0,
    {
      length: 'm',
      time: 's',
    },
  );
  const { run } = await importSteps([{ time: 0, parts: { air: bytes } }]);
  return withOfferedQuantities(run);
}

describe('ready beginnings', () => {
  it('are each understood as an ordinary line of a flow', async () => {
    const run = await flowRun();
    const scene = defaultScene(run);
    const setting = settingOf(run, scene);
    for (const { name, begin } of readyBeginnings) {
      const begun = begin(setting);
      expect(begun, name).not.toBeNull();
      const said = typeof begun === 'string' ? begun : begun!.sentence(-4, 8);
      const read = readLayer(said, scene, run, null, 'new');
      expect('layer' in read, `${name}: ${said}`).toBe(true);
      if ('layer' in read) expect(read.layer.chain.length).toBeGreaterThan(0);
    }
  });

  it.each([
    ['where it flows', /^Streamlines of velocity/],
    ['recirculation in air', /^Isosurface of air where velocity [xyz] = 0/],
    ['Where it stands still', /^Isosurface of velocity at /],
    ['wall shear on air', /^Skin-friction lines of air by velocity/],
    ['vortices by Q', /^Isosurface of Q of velocity at 0.64/],
    ['vortex cores by lambda-2 in air', /^Isosurface of air where lambda-2 of velocity = -0.32/],
    ['vorticity', /^Isosurface of curl of velocity at -0.4/],
  ])('are known as they are typed: "%s"', async (typed, line) => {
    const run = await flowRun();
    const scene = defaultScene(run);
    const begun = typedBeginning(typed, settingOf(run, scene));
    expect(typeof begun === 'string' ? begun : begun?.sentence(-4, 8)).toMatch(line);
    const read = explainSentence(typed, scene, run);
    // Those that need a range of the whole run first say so.
    if (typeof begun === 'string') expect(read.understood).toBe(true);
    else
      expect(read).toMatchObject({
        reason: expect.stringMatching(/^at which value is not said; .*of velocity at"/),
      });
  });

  it('of what the run does not hold are no question', async () => {
    const run = await flowRun();
    expect(openQuestion('vortices by Q in kitchen', defaultScene(run), run)).toBeNull();
    expect(openQuestion('vortices by weight', defaultScene(run), run)).toBeNull();
  });

  it('are not offered where nothing flows', async () => {
    const run = withOfferedQuantities(await ovenRun());
    const flowless = { ...run, fields: run.fields.filter((f) => f.components === 1) };
    expect(readyBeginnings.filter((r) => r.begin(settingOf(flowless)) !== null)).toEqual([]);
  });

  it('lines that follow a flow are read as they are spoken in the trade', async () => {
    const run = await flowRun();
    const scene = defaultScene(run);
    const chainOf = (said: string) => {
      const read = readLayer(said, scene, run, null, 'new');
      if (!('layer' in read)) throw new Error(`${said}: at ${read.at}, ${read.expected.join()}`);
      return read.layer;
    };
    const full = chainOf(
      'streamlines of velocity in air from a line (0.1, 0.1, 0.3) to (0.1, 0.5, 0.3), 40 seeds, as tubes, coloured by travel time',
    );
    expect(full.chain.map((s) => s.op)).toEqual(['streamlines', 'tubes']);
    expect(full.chain[0].options).toMatchObject({
      seeds: 'line',
      from: [0.1, 0.1, 0.3],
      to: [0.1, 0.5, 0.3],
      count: 40,
    });
    expect(full.colour).toMatchObject({ kind: 'field', field: 'line:time' });
    const points = chainOf(
      'streamlines of velocity in air from points (0, 0, 0), (0.5, 0.5, 0.5) m, forward',
    );
    expect(points.chain[0].options).toMatchObject({
      seeds: 'points',
      direction: 'forward',
      places: [
        [0, 0, 0],
        [0.5, 0.5, 0.5],
      ],
    });
    expect(points.colour).toMatchObject({ kind: 'field', component: 'magnitude' });
    expect(
      chainOf('Arrows of air, 3000 evenly spread, all of one length, flat').chain[0].options,
    ).toMatchObject({
      count: 3000,
      length: 'equal',
      form: 'flat',
    });
    expect(
      chainOf('Section at z = 0.5 m, its arrows at its points, the longest 5 % of the picture').chain[1]
        .options,
    ).toMatchObject({
      at: 'points',
      measured: 'picture',
      size: 0.05,
    });
  });
});
