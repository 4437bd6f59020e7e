import { beforeAll, describe, expect, it } from 'vitest';
import { importSteps } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { writeVtu } from '../formats/vtk-xml/vtk-xml-write.ts';
import { speak } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from './default-scene.ts';
import type { Layer, Scene } from './document.ts';
import { layerSentence } from './layer-sentence.ts';
import { readLayer } from './read-layer.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  const part = (x0: number) => {
    const mesh = hexBlock(2);
    const points = mesh.points.map((v, i) => (i % 3 === 0 ? x0 + 2 * v : v));
    const at = (i: number) => points.slice(3 * i, 3 * i + 3);
    const n = points.length / 3;
    const field = (
      name: string,
      components: number,
      unit: string,
      of: (p: ArrayLike<number>) => number[],
    ) => ({
      name,
      location: 'point' as const,
      components,
      unit,
      data: Float32Array.from(Array.from({ length: n }, (_, i) => of(at(i))).flat()),
    });
    return writeVtu(
      { ...mesh, points },
      [
        field('T', 1, '°C', (p) => [20 + 100 * p[0]]),
        field('velocity', 3, 'm/s', (p) => [p[1], 0, p[2]]),
        field('p', 1, 'Pa', (p) => [0.1 * p[2]]),
      ],
      0,
      { length: 'm' },
    );
  };
  ({ run } = await importSteps([{ time: 0, parts: { jet: part(0), 'chamber air': part(2) } }]));
  run = withOfferedQuantities(run);
  const first = defaultScene(run);
  const layer: Layer = {
    ...first.layers[0],
    id: 'cut',
    chain: [{ id: 'cut', op: 'section', options: { normal: [1, 0, 0], offset: 1 }, off: false }],
  };
  scene = { ...first, layers: [first.layers[0], layer] };
});

const understood = (text: string): string => {
  const read = readLayer(text, scene, run, null, 'new');
  if (!('layer' in read)) return `not understood at ${read.at}: ${text.slice(read.at)}`;
  const scales = read.scale ? [...scene.scales, read.scale] : scene.scales;
  const said = speak(layerSentence(read.layer, { ...scene, scales }, run, 'exact'));
  // Whatever is said is read back to the same layer.
  const again = readLayer(said, { ...scene, scales }, run, null, 'new');
  expect('layer' in again && { ...again.layer, name: null }, said).toEqual({ ...read.layer, name: null });
  return said;
};

/** Sentences as people type them, and the beginning of what is understood. None may be dropped. */
const typed: [string, string | RegExp][] = [
  // Commas or none, in British or American spelling.
  [
    'section of chamber air at x = 20 cm coloured by velocity',
    'Section of chamber air at x = 0.2 m, coloured by velocity on',
  ],
  [
    'section of chamber air at x = 20 cm colored by velocity',
    'Section of chamber air at x = 0.2 m, coloured by velocity on',
  ],
  [
    'section of chamber air at x = 20 cm, colored with velocity',
    'Section of chamber air at x = 0.2 m, coloured by velocity on',
  ],
  ['Section of jet at y = 0.5 m, coloured by T.', 'Section of jet at y = 0.5 m, coloured by T on'],
  ['section of jet at z = 0.5 and color it by pressure', 'Section of jet at z = 0.5 m, coloured by p on'],
  ['section of jet at z = 0.5 m showing temperature', 'Section of jet at z = 0.5 m, coloured by T on'],
  ['section of jet at z = 0.5 m by temperature', 'Section of jet at z = 0.5 m, coloured by T on'],
  ['section of jet at z=0.5m with velocity', 'Section of jet at z = 0.5 m, coloured by velocity on'],
  [
    'clip of chamber air to x > 0.3 m coloured by velocity',
    'Clip of chamber air to x > 0.3 m, coloured by velocity on',
  ],
  [
    'volume of chamber air by temperature',
    /^Volume of chamber air on a grid of \d+ with opacity .*, coloured by T on/,
  ],
  // What is shown, where one would expect where.
  ['volume of T', /^Volume of jet on a grid of \d+ with opacity .*, coloured by T on/],
  ['section of the temperature at z = 0.4', 'Section of jet at z = 0.4 m, coloured by T on'],
  [
    'slice of pressure at z = 0.4, with edges',
    /^Section of jet at z = 0.4 m, coloured by p on .*, with edges/,
  ],
  // Names of quantities by their role, their beginning, their length.
  ['section at x = 300 mm, coloured by velocity magnitude', /at x = 0\.3 m, coloured by velocity on/],
  ['section at x = 300 mm coloured by speed', /at x = 0\.3 m, coloured by velocity on/],
  ['section at x = 300 mm coloured by magnitude of velocity', /at x = 0\.3 m, coloured by velocity on/],
  ['section at x = 300 mm coloured by veloc', /at x = 0\.3 m, coloured by velocity on/],
  ['section at x = 300 mm coloured by the pressure', /at x = 0\.3 m, coloured by p on/],
  ['isosurface of temperature at 100', /^Isosurface of .* where T = 100 °C/],
  ['isotherms at 100, 150 and 200 °C', /^Isosurface of .* where T = 100, 150 and 200 °C/],
  ['isosurface of pressure = 0.05 Pa', /^Isosurface of .* where p = 0.05 Pa/],
  // Units, where there are any and where they are left out.
  ['section of jet at x = 0.3', 'Section of jet at x = 0.3 m'],
  ['section of jet at x = 12 in', /^Section of jet at x = 0\.3048 m/],
  ['section of jet at x = 0.3 meters', 'Section of jet at x = 0.3 m'],
  ['section of jet at x = 30 centimetres', 'Section of jet at x = 0.3 m'],
  // An operation within another.
  [
    'contour lines of temperature on section of chamber air at z = 0.4 m',
    /^Section of chamber air at z = 0.4 m, its contour lines of T at 9 values/,
  ],
  [
    'contours of T on the section of jet at y = 0.2',
    /^Section of jet at y = 0.2 m, its contour lines of T at 9 values/,
  ],
  [
    'isolines of pressure on a slice of jet at x = 0.2',
    /^Section of jet at x = 0.2 m, its contour lines of p at 9 values/,
  ],
  [
    'contour lines of p every 0.02 on the section',
    /^Surface of line 2, its contour lines of p at 0, 0.02, 0.04, 0.06, 0.08 and 0.1 Pa/,
  ],
  ['contour lines of T every 50 on section of jet at z = 0.5', /its contour lines of T at 50, 100, 150, 200/],
  [
    'arrows of velocity on a section of chamber air at x = 2.5',
    /^Section of chamber air at x = 2.5 m, its arrows by velocity/,
  ],
  [
    'arrows on the section of jet at y = 0.2 coloured by T',
    /^Section of jet at y = 0.2 m, its arrows by velocity.*, coloured by T on/,
  ],
  [
    'flow texture of velocity on a slice of jet at z = 0.5',
    /^Section of jet at z = 0.5 m, its flow texture by velocity/,
  ],
  [
    'arrows of velocity on jet, 400 evenly spread, coloured by T',
    /^Surface of jet, its arrows by velocity, 400 evenly spread.*, coloured by T on/,
  ],
  [
    'streamlines of velocity on a section of jet at z = 0.5, forward',
    /^Section of jet at z = 0.5 m, its streamlines by velocity.*forward/,
  ],
  ['flow texture on the jet', /^Surface of jet, its flow texture by velocity/],
  ['streamlines on a section of jet at z = 0.5', /^Section of jet at z = 0.5 m, its streamlines by velocity/],
  // Conditions.
  ['show only where T > 200', /^What is kept of everything where “T > 200”/],
  ['only where T > 200 and z < 0.5', /^What is kept of everything where “T > 200 and z < 0.5”/],
  ['show only jet where velocity > 0.5', /^What is kept of jet where “velocity > 0.5”/],
  [
    'keep the cells where p < 0.05, coloured by T',
    /^What is kept of everything where “p < 0.05”, coloured by T on/,
  ],
  // Halves, middles and planes.
  [
    'clip half of the jet at y = 0.12 and colour it by pressure',
    /^Clip of jet to y > 0.12 m, coloured by p on/,
  ],
  ['half of the jet at y = 0.12', /^Clip of jet to y > 0.12 m/],
  ['clip jet at x < 0.5', /^Clip of jet to x < 0.5 m/],
  [
    'cut through the middle of the jet showing temperature',
    /^Section of jet at [yz] = 0.5 m, coloured by T on/,
  ],
  ['section through the centre of jet along x', 'Section of jet at x = 1 m'],
  [
    'slice in the middle of chamber air across z coloured by p',
    /^Section of chamber air at z = 0.5 m, coloured by p on/,
  ],
  [
    'section normal to (1,1,0) through (0.3,0.12,0.12) coloured by T',
    /^Section of .* across \(1, 1, 0\) at 0\.29698484809\d* m, coloured by T on/,
  ],
  ['cut plane of jet normal to x at 0.4', 'Section of jet at x = 0.4 m'],
  // Looks.
  ['surface of jet in light grey, 20 % transparent', 'Surface of jet, in #c8c8c8, at 80 % opacity'],
  ['surface of jet in light gray', 'Surface of jet, in #c8c8c8'],
  ['surface of the jet in blue, half transparent', 'Surface of jet, in #2f62a8, at 50 % opacity'],
  ['surface of jet translucent', /^Surface of jet, .*at 50 % opacity/],
  ['surface of jet with edges', /^Surface of jet, .*with edges/],
  ['surface of jet with mesh lines', /^Surface of jet, .*with edges/],
  [
    'surface of chamber air coloured by pressure seen from inside',
    /^Surface of chamber air, coloured by p on .*seen from inside/,
  ],
  ['surface of jet 30 percent opaque', /^Surface of jet, .*at 30 % opacity/],
  // Everyday words for the operations.
  ['slice of jet at x = 0.3', 'Section of jet at x = 0.3 m'],
  ['a cut of the jet at x = 0.3', 'Section of jet at x = 0.3 m'],
  ['cross-section of jet at x = 0.3 coloured by T', 'Section of jet at x = 0.3 m, coloured by T on'],
  ['show me the surface of jet', 'Surface of jet'],
  ['draw a slice of jet at x = 0.3', 'Section of jet at x = 0.3 m'],
  ['skin of jet coloured by T', 'Surface of jet, coloured by T on'],
  ['section of jet', /^Section of jet at [xyz] = /],
  [
    'slice of chamber air coloured by velocity',
    /^Section of chamber air at [xyz] = .*, coloured by velocity on/,
  ],
  ['isosurface of jet', /^Isosurface of jet where /],
  ['iso-surface of T at 60', /^Isosurface of .* where T = 60 °C/],
  ['level surfaces of pressure at 0.02 and 0.04 Pa', /^Isosurface of .* where p = 0.02 and 0.04 Pa/],
  ['outside of chamber air in white', 'Surface of chamber air, in #f4f4f2'],
  [
    'plot a cross-section of the chamber air at z = 25 cm with pressure',
    'Section of chamber air at z = 0.25 m, coloured by p on',
  ],
  // More of the same, as they come in a day's work.
  [
    'Section of jet at x = 0.3 m, coloured by T and seen from inside',
    /^Section of jet at x = 0.3 m, coloured by T on .*seen from inside/,
  ],
  [
    'section of jet at x = 0.3 m coloured by T at 50 % opacity',
    /^Section of jet at x = 0.3 m, coloured by T on .*at 50 % opacity/,
  ],
  ['section of jet and chamber air at y = 0.5', /^Section of (everything|jet and chamber air) at y = 0.5 m/],
  [
    'section of everything at y = 0.5 coloured by pressure',
    /^Section of everything at y = 0.5 m, coloured by p on/,
  ],
  ['slice y = 0.5', /^Section of .* at y = 0.5 m/],
  ['slice at y = 0.5', /^Section of .* at y = 0.5 m/],
  ['slices of jet at y = 0.5', 'Section of jet at y = 0.5 m'],
  ['cut jet at y = 0.5', 'Section of jet at y = 0.5 m'],
  ['cut the jet at y = 0.5 coloured by T', 'Section of jet at y = 0.5 m, coloured by T on'],
  ['section jet at y = 0.5', 'Section of jet at y = 0.5 m'],
  ['plane of jet at z = 50 cm', 'Section of jet at z = 0.5 m'],
  ['section of jet at z 0.5', 'Section of jet at z = 0.5 m'],
  ['section of jet at z: 0.5', 'Section of jet at z = 0.5 m'],
  ['section of jet on z = 0.5', 'Section of jet at z = 0.5 m'],
  ['section of jet where z = 0.5', 'Section of jet at z = 0.5 m'],
  ['section in jet at z = 0.5', 'Section of jet at z = 0.5 m'],
  ['section through jet at z = 0.5', 'Section of jet at z = 0.5 m'],
  [
    'section of jet at z = 0.5 m coloured by temperature on viridis',
    /^Section of jet at z = 0.5 m, coloured by T on Viridis/,
  ],
  ['section of jet at z = 0.5 m coloured according to T', 'Section of jet at z = 0.5 m, coloured by T on'],
  ['section of jet at z = 0.5 m, colour by T', 'Section of jet at z = 0.5 m, coloured by T on'],
  ['section of jet at z = 0.5 m, colouring by T', 'Section of jet at z = 0.5 m, coloured by T on'],
  ['section of jet at z = 0.5 m painted by T', 'Section of jet at z = 0.5 m, coloured by T on'],
  ['temperature on section of jet at z = 0.5', 'Section of jet at z = 0.5 m, coloured by T on'],
  [
    'velocity on a slice of chamber air at x = 2.5',
    'Section of chamber air at x = 2.5 m, coloured by velocity on',
  ],
  ['pressure on the surface of jet', 'Surface of jet, coloured by p on'],
  ['temperature of jet', 'Surface of jet, coloured by T on'],
  ['jet coloured by temperature', 'Surface of jet, coloured by T on'],
  ['the jet in copper', 'Surface of jet, in copper'],
  ['jet', 'Surface of jet'],
  ['chamber air, 70 % transparent', /^Surface of chamber air, .*at 30 % opacity/],
  ['surface of jet in copper, with edges', 'Surface of jet, in copper, with edges'],
  ['surface of jet, red', 'Surface of jet, in #b3261e'],
  ['red surface of jet', 'Surface of jet, in #b3261e'],
  ['transparent surface of jet', /^Surface of jet, .*at 50 % opacity/],
  ['surface of jet, opacity 40 %', /^Surface of jet, .*at 40 % opacity/],
  ['surface of jet, opacity 0.4', /^Surface of jet, .*at 40 % opacity/],
  ['surface of jet, hidden', /^Surface of jet, .*hidden/],
  ['isosurface of T at 60 °C', /^Isosurface of .* where T = 60 °C/],
  ['isosurface of T = 60', /^Isosurface of .* where T = 60 °C/],
  ['isosurface T = 60', /^Isosurface of .* where T = 60 °C/],
  ['isosurface of temperature at 60 and 80 in copper', /^Isosurface of .* where T = 60 and 80 °C, in copper/],
  [
    'isosurface of speed at 0.5 m/s coloured by T',
    /^Isosurface of .* where velocity = 0.5 m\/s, coloured by T on/,
  ],
  ['isosurfaces of pressure at 0.02, 0.04 and 0.06', /^Isosurface of .* where p = 0.02, 0.04 and 0.06 Pa/],
  ['isosurface of jet where T = 60', /^Isosurface of jet where T = 60 °C/],
  ['isosurface of pressure every 0.05', /^Isosurface of .* where p = 0, 0.05 and 0.1 Pa/],
  ['contour lines on jet', /^Surface of jet, its contour lines of T at 9 values/],
  [
    'contour lines of T on jet',
    /^Surface of jet, its contour lines of T at 9 values|^Contour lines on jet of T at 9 levels/,
  ],
  [
    'contour lines of p on surface of jet at 0.02 and 0.04',
    /its contour lines of p at 0.02 and 0.04 Pa|of p at 0.02 and 0.04 Pa/,
  ],
  ['clip jet to x > 0.5', 'Clip of jet to x > 0.5 m'],
  ['clip of jet at x > 0.5', 'Clip of jet to x > 0.5 m'],
  ['clip of jet where x > 0.5', 'Clip of jet to x > 0.5 m'],
  ['clip the jet at x = 0.5 coloured by T', 'Clip of jet to x > 0.5 m, coloured by T on'],
  ['jet cut at x = 0.5', 'Section of jet at x = 0.5 m'],
  ['jet where T > 100', /^What is kept of jet where “T > 100”/],
  ['cells where T > 100', /^What is kept of everything where “T > 100”/],
  ['Points of jet where velocity > 0.5', /^What is kept of jet where “velocity > 0.5” by points/],
  ['cells of the jet where T > 100', /^What is kept of jet where “T > 100”(?! by points)/],
  [
    'points of jet where velocity > 0.5, their trails',
    /^What is kept of jet where .* by points, their trails/,
  ],
  ['particles where T > 100', /^What is kept of everything where “T > 100” by points/],
  // The other half.
  ['mirror of the jet across x', 'Mirror of jet at x = 0 m'],
  ['clip of jet to x > 0.5, mirrored across x at 0.5', /^Clip of jet to x > 0.5 m, mirrored at x = 0.5 m/],
  ['surface of jet, mirrored about y = 0.2', /^Surface of jet, mirrored at y = 0.2 m/],
  // Questions of the trade.
  ['reversed flow', 'Isosurface of jet where velocity'],
  ['recirculation in jet', 'Isosurface of jet where velocity'],
  ['stagnation, coloured by T', /^Isosurface of jet where velocity = .*, coloured by T on/],
  ['wall shear', /^Skin-friction lines of .*jet/],
  ['hide where T < 50', /^What is kept of everything where “not \(T < 50\)”/],
  ['deformed shape of jet by velocity', /^Deformed shape of jet by velocity times/],
  ['volume of jet', /^Volume of jet on a grid of/],
  ['cloud of chamber air coloured by T', /^Volume of chamber air on a grid of .*coloured by T on/],
  ['edges of jet', /^Edges of jet/],
  ['points of jet coloured by T', /^Points of jet.*, coloured by T on/],
];

describe('sentences as people type them', () => {
  for (const [text, wanted] of typed)
    it(text, () => {
      const said = understood(text);
      if (typeof wanted === 'string') expect(said.startsWith(wanted), said).toBe(true);
      else expect(said).toMatch(wanted);
    });

  it('are not guessed at where they mean nothing', () => {
    for (const text of [
      'section of kitchen at x = 1',
      'melt the jet',
      'surface of jet coloured by steam',
      'sec',
      '',
    ])
      expect(understood(text)).toMatch(/^not understood/);
  });
});

describe('parts that are read beside others', () => {
  const said = (text: string): string => {
    const [jet, air] = run.parts;
    const grains = {
      ...jet,
      kind: 'particles' as const,
      meshes: jet.meshes.map((m) => ({ ...m, dimension: 0 })),
    };
    const dusty = { ...run, parts: [grains, air] };
    const read = readLayer(text, defaultScene(dusty), dusty, null, 'new');
    if (!('layer' in read)) return `not understood at ${read.at}: ${text.slice(read.at)}`;
    return speak(layerSentence(read.layer, scene, dusty, 'exact'));
  };
  it.each([
    'deposits of jet on chamber air',
    'deposits of the jet on the chamber air, coloured by T',
    'surface of chamber air, its deposits of jet',
    'deposits on chamber air from jet',
    'what has landed of jet on chamber air',
  ])('need no quotation marks: "%s"', (text) => {
    expect(said(text)).toMatch(/chamber air(, its deposits)? from part "jet" within/);
  });
  it.each([
    'streamlines of velocity in chamber air from points of jet',
    'streamlines of chamber air from part jet',
  ])('release lines: "%s"', (text) => {
    expect(said(text)).toMatch(/^Streamlines of chamber air .*from the surface of part "jet"/);
  });
});
