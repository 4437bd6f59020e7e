import { Matrix4, OrthographicCamera, type Texture, Vector3, type WebGLRenderTarget } from 'three';
import type { Bounds } from '#core/model/mesh.ts';
import type { Vector } from '#core/model/vectors.ts';
import { depthTarget } from './render-targets.ts';

/** Something that shines from one direction, with what it sees of the model: the rest lies in its shadow. */
export class ShadowMap {
  readonly target: WebGLRenderTarget;
  readonly camera = new OrthographicCamera();
  /** From the world to the map. */
  readonly matrix = new Matrix4();
  /** Depth above which nothing of the model stands. */
  top = 0;

  constructor(pixels: number, made = depthTarget) {
    this.target = made(pixels);
  }

  get texture(): Texture {
    return this.target.depthTexture ?? this.target.texture;
  }

  /** Shines from a direction on a ball around the model. */
  aim(from: Vector, centre: Vector, radius: number, bounds: Bounds): void {
    const r = radius * 1.02;
    const { camera } = this;
    Object.assign(camera, { left: -r, right: r, top: r, bottom: -r, near: 0, far: 4 * r });
    const at = new Vector3(...centre);
    camera.position.copy(at).addScaledVector(new Vector3(...from), 2 * r);
    // Any will do that is not the direction itself.
    camera.up.set(...((Math.abs(from[2]) > 0.95 ? [0, 1, 0] : [0, 0, 1]) as Vector));
    camera.lookAt(at);
    camera.updateMatrixWorld(true);
    camera.updateProjectionMatrix();
    const reach = from.reduce(
      (sum, d, k) => sum + (Math.abs(d) * (bounds[2 * k + 1] - bounds[2 * k])) / 2,
      0,
    );
    this.top = 0.499 - reach / (4 * r);
    this.matrix.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
  }

  dispose(): void {
    this.target.dispose();
  }
}
