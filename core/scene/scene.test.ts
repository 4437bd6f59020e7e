import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { spreadOfPoints } from '../colour/spread.ts';
import { sayList, sayNumber, sayQuantity, speak } from '../language/sentence.ts';
import { evenBands } from '../model/levels.ts';
import type { RunDescription } from '../model/run.ts';
import type { Vector } from '../model/vectors.ts';
import { GLASS } from './bodies-around.ts';
import { cameraAxes, fitCamera, projectPoint, viewDirections } from './camera.ts';
import { heightAtTarget, orbit, pan, withProjection, zoomAt } from './camera-moves.ts';
import { defaultScene, newScale } from './default-scene.ts';
import { readScene, type Scene } from './document.ts';
import { applyEdit, type Edit } from './edits.ts';
import { SceneHistory } from './history.ts';
import { layerSentence, sceneCaption } from './layer-sentence.ts';
import { settleScale } from './settle-scale.ts';
import { stampDecimals } from './things/stamp.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

describe('the document', () => {
  it('survives being written and read', () => {
    expect(readScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
  });
  it('says what is wrong with a scene it cannot read', () => {
    expect(() => readScene({})).toThrow(/no version/);
    expect(() => readScene({ ...scene, version: 99 })).toThrow(/newer/);
    expect(() => readScene({ ...scene, layers: [{ ...scene.layers[0], opacity: 3 }] })).toThrow(
      /layers \/ 0 \/ opacity/,
    );
  });
});

describe('the first scene of a run', () => {
  it('shows the surface, coloured by temperature over all steps, framed', () => {
    expect(scene.layers).toHaveLength(1);
    expect(scene.layers[0].colour).toMatchObject({ kind: 'field', field: 'point:temperature' });
    expect(settleScale(scene.scales[0], run, 0).colours).toMatchObject({ low: 20, high: 46, map: 'heat' });
    for (let i = 0; i < 8; i++) {
      const at = projectPoint(scene.camera, [i & 1, (i >> 1) & 1, i >> 2], 1.5);
      expect(Math.min(at.x, at.y, 1 - at.x, 1 - at.y)).toBeGreaterThan(0.03);
    }
  });
  it('opens what encloses other parts', () => {
    const inner = {
      ...run.parts[0],
      name: 'tin',
      meshes: run.parts[0].meshes.map((m) => ({
        ...m,
        bounds: [0.2, 0.6, 0.2, 0.6, 0.2, 0.6] as typeof m.bounds,
      })),
    };
    const shell = {
      ...run.parts[0],
      name: 'walls',
      meshes: run.parts[0].meshes.map((m) => ({ ...m, dimension: 2 })),
    };
    const made = defaultScene({ ...run, parts: [run.parts[0], shell, inner] });
    expect(made.layers.map((l) => [l.parts, l.chain.map((c) => c.op), l.sides])).toEqual([
      [['tin'], [], 'both'],
      [['oven'], ['section'], 'both'],
      [['walls'], [], 'inside'],
    ]);
  });
  it('leaves few extreme values out of the colours where they are to be expected', () => {
    const density = { key: 'landed:density', name: 'deposits per area', role: 'other' as const };
    const made = newScale({ ...density, hasExtremes: true }, 0, 's', 'deposits');
    // A hundred faces as large as each other, one of them with far more.
    const places = new Float32Array(300);
    const all = Uint32Array.from({ length: 100 }, (_, i) => i);
    const shown = spreadOfPoints(
      places,
      all,
      Float32Array.from(all, (i) => (i === 7 ? 1000 : i)),
    );
    const { high } = settleScale(made, run, 0, shown);
    expect(high).toBeGreaterThan(95);
    expect(high).toBeLessThan(105);
    expect(settleScale(newScale(density, 0, 's', 'deposits'), run, 0, shown).high).toBe(1000);
  });
  it('shows what holds only points as glass, its own values kept', () => {
    const droplets = {
      ...run.parts[0],
      name: 'droplets',
      kind: 'particles' as const,
      meshes: run.parts[0].meshes.map((m) => ({ ...m, dimension: 0 })),
    };
    // Without values of its own.
    const chamber = {
      ...run.parts[0],
      name: 'chamber',
      meshes: run.parts[0].meshes.map((m) => ({ ...m, dimension: 2 })),
      steps: run.parts[0].steps.map((s) => s && { ...s, fields: {} }),
    };
    const looks = (parts: typeof run.parts): unknown[] =>
      defaultScene({ ...run, parts }).layers.map((l) => [l.parts, l.opacity, l.sides]);
    expect(looks([chamber, droplets])).toEqual([
      [['droplets'], 1, 'both'],
      [['chamber'], GLASS, 'both'],
    ]);
    // Droplets beside it, and a body that shows values, leave it as it is.
    const away = {
      ...droplets,
      meshes: droplets.meshes.map((m) => ({ ...m, bounds: [2, 3, 0, 1, 0, 1] as typeof m.bounds })),
    };
    expect(looks([chamber, away])).toEqual([
      [['chamber'], 1, 'both'],
      [['droplets'], 1, 'both'],
    ]);
    expect(looks([run.parts[0], droplets])).toEqual([
      [['oven'], 1, 'both'],
      [['droplets'], 1, 'both'],
    ]);
  });
  it('lies flat and lit evenly for a flat run', () => {
    const flat = {
      ...run,
      dimension: 2,
      parts: run.parts.map((p) => ({
        ...p,
        meshes: p.meshes.map((m) => ({ ...m, bounds: [0, 2, 0, 1, 0, 0] as typeof m.bounds })),
      })),
    };
    const { camera, light } = defaultScene(flat);
    expect(camera.projection).toBe('parallel');
    expect(cameraAxes(camera).back).toEqual([0, 0, 1]);
    expect(light.rig).toBe('even');
  });
  it('tells neighbouring steps apart in the stamp', () => {
    expect([[0, 2, 4], [0, 0.5], [0, 0.01, 0.02], [1]].map(stampDecimals)).toEqual([0, 1, 2, 0]);
  });
});

describe('edits', () => {
  const layerId = () => scene.layers[0].id;
  it('leave the old scene as it was', () => {
    const before = JSON.stringify(scene);
    const own = newScale(run.fields[0], 0, 'scale-2', 'own');
    const edits: Edit[] = [
      { type: 'layer.duplicate', id: layerId(), newId: 'copy' },
      {
        type: 'layer.change',
        id: layerId(),
        change: {
          opacity: 0.5,
          colour: { kind: 'field', field: 'point:temperature', component: 0, scale: 'scale-2' },
        },
        scale: own,
      },
      { type: 'scale.change', id: 'scale-1', change: { bands: evenBands(7) } },
      { type: 'legend.change', id: 'scale-1', change: { upright: false } },
      { type: 'setting.change', thing: 'stamp', change: { decimals: 3 } },
      { type: 'setting.change', thing: 'picture', change: { aspect: 2 } },
      { type: 'layer.remove', id: layerId() },
    ];
    for (const edit of edits) expect(JSON.stringify(applyEdit(scene, edit)), edit.type).not.toBe(before);
    expect(JSON.stringify(scene)).toBe(before);
  });
  it('move lines', () => {
    const two = applyEdit(scene, { type: 'layer.duplicate', id: layerId(), newId: 'copy' });
    expect(applyEdit(two, { type: 'layer.move', id: 'copy', to: 0 }).layers.map((l) => l.id)).toEqual([
      'copy',
      layerId(),
    ]);
    expect(applyEdit(two, { type: 'layer.move', id: 'nobody', to: 0 })).toBe(two);
  });
  it('drop a scale with the last line that uses it, not before', () => {
    const two = applyEdit(scene, { type: 'layer.duplicate', id: layerId(), newId: 'copy' });
    const one = applyEdit(two, { type: 'layer.remove', id: layerId() });
    expect(one.scales).toHaveLength(1);
    expect(applyEdit(one, { type: 'layer.remove', id: 'copy' }).scales).toHaveLength(0);
  });
  it('undo and redo, a whole drag at a time', () => {
    let history = SceneHistory.of(scene).apply({ type: 'scene.rename', name: 'one' });
    for (const opacity of [0.9, 0.5, 0.2])
      history = history.apply({ type: 'layer.change', id: layerId(), change: { opacity } }, 'drag');
    expect(history.undoText).toBe('change a line');
    const back = history.undo();
    expect([back.scene.layers[0].opacity, back.scene.name]).toEqual([1, 'one']);
    expect(back.redo().scene.layers[0].opacity).toBe(0.2);
    expect(back.undo().scene.name).toBe(scene.name);
    expect(back.undo().undo().undoText).toBeNull();
    expect(back.apply({ type: 'scene.rename', name: 'other' }).redoText).toBeNull();
  });
  it('do not carry the step into undo', () => {
    const history = SceneHistory.of(scene).apply({ type: 'scene.rename', name: 'one' }).showAt({ step: 0 });
    expect(history.undo().scene).toMatchObject({ name: scene.name, step: 0 });
  });
});

describe('sentences', () => {
  it('say what a layer is', () => {
    const section = {
      id: 'cut',
      op: 'section',
      options: { normal: [0, 0, 1], offset: 0.4, locked: false },
      off: false,
    };
    const layer = { ...scene.layers[0], chain: [section] };
    expect(speak(layerSentence(layer, scene, run))).toBe(
      'Section of oven at z = 0.4 m, coloured by temperature on Heat',
    );
    expect(
      speak(layerSentence({ ...layer, chain: [], colour: { kind: 'plain', colour: '#b4733f' } }, scene, run)),
    ).toBe('Surface of oven, in copper');
    expect(sceneCaption(scene, run, 't = 10 s')).toBe(
      'Surface of oven, coloured by temperature on Heat. At t = 10 s.',
    );
  });
  it('say a free plane by its normal', () => {
    const layer = {
      ...scene.layers[0],
      chain: [
        {
          id: 'cut',
          op: 'section',
          options: { normal: [0.6, 0, 0.8], offset: 0.25, locked: false },
          off: false,
        },
      ],
    };
    expect(speak(layerSentence(layer, scene, run))).toMatch(/across \(0\.6, 0, 0\.8\) at 0\.25 m/);
  });
  it('say numbers and lists as a reader wants them', () => {
    expect([0, 0.4, 1234.567, -0.00012, 1.5e-7, -2.5e9, Number.NaN].map((v) => sayNumber(v))).toEqual([
      '0',
      '0.4',
      '1235',
      '−0.00012',
      '1.5 × 10⁻⁷',
      '−2.5 × 10⁹',
      'no value',
    ]);
    expect(sayQuantity(3, null)).toBe('3');
    expect(sayList(['a', 'b', 'c'])).toBe('a, b and c');
  });
});

describe('the camera', () => {
  const camera = () => scene.camera;
  it('fits a box from every side, touching the margin', () => {
    for (const { from, up } of Object.values(viewDirections)) {
      for (const projection of ['perspective', 'parallel'] as const) {
        const made = fitCamera(
          [0, 2, -1, 1, 0, 5],
          [...from],
          [...up],
          1.6,
          { projection, fieldOfView: 30 },
          1,
        );
        const at = Array.from({ length: 8 }, (_, i) =>
          projectPoint(made, [i & 1 ? 2 : 0, i & 2 ? 1 : -1, i & 4 ? 5 : 0], 1.6),
        );
        const edge = Math.max(...at.flatMap((p) => [Math.abs(p.x - 0.5), Math.abs(p.y - 0.5)]));
        expect(edge).toBeCloseTo(0.5, 6);
      }
    }
  });
  it('zooms keeping what is under the cursor', () => {
    for (const c of [camera(), withProjection(camera(), 'parallel')]) {
      const { right, up } = cameraAxes(c);
      const h = heightAtTarget(c);
      const point = c.target.map((v, k) => v + right[k] * 0.3 * h + up[k] * -0.2 * h) as Vector;
      const before = projectPoint(c, point, 1);
      const after = projectPoint(zoomAt(c, 0.4, 0.3, -0.2), point, 1);
      expect([after.x, after.y]).toEqual([expect.closeTo(before.x, 9), expect.closeTo(before.y, 9)]);
    }
  });
  it('turns around its target at a constant distance and never over the pole', () => {
    let c = camera();
    const distance = Math.hypot(...c.position.map((v, k) => v - c.target[k]));
    for (let i = 0; i < 50; i++) c = orbit(c, 0.3, 0.2, [0, 0, 1]);
    expect(Math.hypot(...c.position.map((v, k) => v - c.target[k]))).toBeCloseTo(distance, 6);
    expect(cameraAxes(c).back[2]).toBeLessThan(1);
    expect(cameraAxes(c).up[2]).toBeGreaterThan(0);
  });
  it('moves the picture by as much as the hand', () => {
    const moved = pan(camera(), 0.25, 0);
    const at = projectPoint(moved, camera().target, 2);
    expect(at.x).toBeCloseTo(0.5 + 0.25 / 2, 6);
  });
  it('keeps sizes at the target when the projection changes, there and back', () => {
    const back = withProjection(withProjection(camera(), 'parallel'), 'perspective');
    for (let k = 0; k < 3; k++) expect(back.position[k]).toBeCloseTo(camera().position[k], 6);
  });
});
