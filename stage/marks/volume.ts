import {
  BoxGeometry,
  ClampToEdgeWrapping,
  Data3DTexture,
  DataTexture,
  DataUtils,
  HalfFloatType,
  LinearFilter,
  Matrix4,
  Mesh,
  RedFormat,
  RGFormat,
  Vector2,
  Vector3,
} from 'three';
import type { ValueGrid } from '#core/model/value-grid.ts';
import { blend } from '../blending.ts';
import { volumeFragment } from '../shaders/volume.ts';
import { worldVertex } from '../shaders/world.ts';
import { material, setDefine, type Uniforms } from './material.ts';
import type { Painter } from './painter.ts';

/** Along the diagonal: of coarse grids too, so that a cloud is as dense as its curve says. */
const LEAST_STEPS = 64;

/** A grid of values as a cloud. */
function volumeMesh(grid: ValueGrid, uniforms: Uniforms) {
  const [b, n] = [grid.bounds, grid.size];
  // The value times whether it is known, and whether it is known: so the rim of a body does not fade to zero.
  const data = new Uint16Array(2 * grid.values.length);
  const { low: least, high: most } = grid;
  const one = DataUtils.toHalfFloat(1);
  for (const [i, v] of grid.values.entries()) {
    if (!Number.isFinite(v)) continue;
    data[2 * i] = DataUtils.toHalfFloat((v - least) / (most - least || 1));
    data[2 * i + 1] = one;
  }
  const texture = new Data3DTexture(data, ...n);
  texture.format = RGFormat;
  texture.type = HalfFloatType;
  texture.minFilter = LinearFilter;
  texture.magFilter = LinearFilter;
  texture.wrapS = texture.wrapT = texture.wrapR = ClampToEdgeWrapping;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  const low = new Vector3(b[0], b[2], b[4]);
  const high = new Vector3(b[1], b[3], b[5]);
  const curve = curveTexture(grid.curve);
  const made = material(worldVertex, volumeFragment, {
    ...uniforms,
    uGrid: { value: texture },
    uCurve: { value: curve },
    uBoxLow: { value: low },
    uBoxHigh: { value: high },
    uValues: { value: new Vector2(least, most) },
    uSteps: { value: Math.min(256, Math.max(LEAST_STEPS, 1.5 * Math.max(...n))) },
  });
  setDefine(made, 'LIT', grid.lit);
  setDefine(made, 'CLOUDED', grid.lit && grid.casts);
  // Back faces: three turns them over by their side.
  made.side = 1;
  made.depthTest = false;
  const size = high.clone().sub(low);
  const mesh = new Mesh(new BoxGeometry(1, 1, 1), made);
  mesh.applyMatrix4(
    new Matrix4()
      .makeTranslation(...low.clone().addScaledVector(size, 0.5).toArray())
      .scale(new Vector3(...size.toArray().map((s) => s || 1e-6))),
  );
  mesh.renderOrder = 4;
  mesh.frustumCulled = false;
  return { mesh, textures: [texture, curve] };
}

/** A cloud: what is in the way costs light for every pixel, so it is drawn row by row. */
export const volumePainter: Painter<'volume'> = {
  kind: 'volume',
  paint({ grid }, look, shared) {
    const { mesh, textures } = volumeMesh(grid, { ...shared, ...look.own });
    blend(mesh.material, 0.5);
    return {
      drawn: [
        { object: mesh, kind: 'volume', by: 'row', through: 'between', count: 12, narrow: () => undefined },
      ],
      casters: [],
      setValues: () => undefined,
      restyle: () => undefined,
      fade: () => undefined,
      dispose: () => {
        mesh.geometry.dispose();
        mesh.material.dispose();
        for (const texture of textures) texture.dispose();
      },
    };
  },
};

function curveTexture(curve: ValueGrid['curve']): DataTexture {
  const data = new Uint16Array(256);
  const sorted = [...curve].sort((a, b) => a[0] - b[0]);
  for (let i = 0; i < 256; i++) {
    const at = i / 255;
    const next = sorted.findIndex(([p]) => p >= at);
    const put = (v: number): void => {
      data[i] = DataUtils.toHalfFloat(v);
    };
    if (next < 0) put(sorted[sorted.length - 1][1]);
    else if (next === 0) put(sorted[0][1]);
    else {
      const [p0, o0] = sorted[next - 1];
      const [p1, o1] = sorted[next];
      put(o0 + ((at - p0) / (p1 - p0 || 1)) * (o1 - o0));
    }
  }
  const texture = new DataTexture(data, 256, 1, RedFormat, HalfFloatType);
  texture.minFilter = LinearFilter;
  texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return texture;
}
