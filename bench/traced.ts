import type { Scene } from '#core/scene/document.ts';
import { difference, lightOn } from '../tests/browser/path-traced/difference.ts';
import { skyPicture, Tracer } from '../tests/browser/path-traced/tracer.ts';
import { DemoRuns, OVEN } from './demo-run.ts';

const SIZE = { width: 240, height: 150 };
/** White in an even sky. */
const SKY = 0.5;
const PASSES = 128;
const SAMPLES = 64;
const MEETS = { 'of the sky alone': 2, 'and from body to body': 8 };
const demos = {
  'oven warm-up': OVEN,
  'rack hook under load': 'rack-hook-load/rack-hook-load.pvd',
  'steam duct': 'steam-duct/steam-duct.pvd',
};

/** In matte paint under an even sky, with nothing but bodies. */
const inPaint = (scene: Scene): Scene => ({
  ...scene,
  parts: {},
  light: { ...scene.light, rig: 'tent', fill: SKY, contact: 1 },
  floor: { ...scene.floor, kind: 'none' },
  stamp: { ...scene.stamp, visible: false },
  scales: scene.scales.map((s) => ({ ...s, legend: { ...s.legend, visible: false } })),
  annotations: [],
  // What is left open towards whoever looks is closed in other programs.
  layers: scene.layers
    .filter((l) => l.sides === 'both')
    .map((l) => ({
      ...l,
      opacity: 1,
      finish: 'matte-paint',
      colour: { kind: 'plain', colour: '#c8bca8' },
      edges: { ...l.edges, shown: false },
    })),
});

/** How far the light of three demo scenes is from what a path tracer finds in their GLB, in hundredths of white. */
export async function benchTraced(): Promise<void> {
  await DemoRuns.during(async (runs) => {
    const { drawing } = runs;
    const tracer = await Tracer.open(await runs.browser.newPage());
    for (const [name, file] of Object.entries(demos)) {
      const opened = await runs.open(file);
      const scene = inPaint(opened.scene);
      const { camera } = scene;
      const order = { run: opened.run, scene, step: scene.step, ...SIZE, passes: PASSES };
      const mine = lightOn(await drawing.draw({ ...order, transparent: true }));
      const { bytes } = await drawing.make({ ...order, format: 'glb' });
      for (const [what, bounces] of Object.entries(MEETS)) {
        const traced = await tracer.trace({
          bodies: [],
          glb: bytes.toString('base64'),
          camera: {
            ...camera,
            fieldOfView: camera.projection === 'perspective' ? camera.fieldOfView : null,
            near: 1e-3 * Math.hypot(...camera.position.map((p, k) => p - camera.target[k])),
            far: 1e3 * Math.hypot(...camera.position.map((p, k) => p - camera.target[k])),
          },
          sky: skyPicture(() => [SKY, SKY, SKY]),
          ...SIZE,
          samples: SAMPLES,
          bounces,
        });
        const { rootMeanSquare, mean, most, count } = difference(SIZE, mine, traced, { block: 4 });
        const said = [rootMeanSquare, mean, most].map((v) => `${((100 * v) / SKY).toFixed(1)} %`);
        console.log(
          `light of ${name} against a path tracer, ${what}: ${said[0]} of white (mean of ours less theirs ${said[1]}, at most ${said[2]}, in ${count / 3} places)`,
        );
      }
    }
  });
}
