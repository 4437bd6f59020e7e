import { OrthographicCamera, PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { distanceToBounds } from '#core/model/mesh.ts';
import { fitCamera } from '#core/scene/camera.ts';
import { lensOf, threeCamera } from './three-camera.ts';

/** A camera beside its target, which sees one tile of a picture, moved by less than a pixel. */
function aslant<C extends PerspectiveCamera | OrthographicCamera>(camera: C): C {
  camera.position.set(3, -4, 2.5);
  camera.up.set(0, 0, 1);
  camera.lookAt(0.2, 0.1, 0.4);
  camera.setViewOffset(900, 600, 300.4, 199.7, 320, 240);
  camera.updateProjectionMatrix();
  camera.updateMatrixWorld(true);
  return camera;
}

describe('what lies where in a pass', () => {
  it.each([
    ['in perspective', aslant(new PerspectiveCamera(35, 1.5, 0.1, 40))],
    ['in parallel projection', aslant(new OrthographicCamera(-3, 3, 2, -2, 0.1, 40))],
  ])('is found again from its pixel and its distance, %s', (_, camera) => {
    const [right, rise, back] = [0, 1, 2].map((k) =>
      new Vector3().setFromMatrixColumn(camera.matrixWorld, k),
    );
    const lens = lensOf(camera.projectionMatrix.elements);
    for (const place of [new Vector3(0, 0, 0), new Vector3(0.5, -0.25, 0.75), new Vector3(-1, 1, -0.5)]) {
      const seen = place.clone().project(camera);
      const distance = camera.position.clone().sub(place).dot(back);
      const wide = camera instanceof PerspectiveCamera ? distance : 1;
      const found = camera.position
        .clone()
        .addScaledVector(right, (seen.x + lens[0]) * lens[2] * wide)
        .addScaledVector(rise, (seen.y + lens[1]) * lens[3] * wide)
        .addScaledVector(back, -distance);
      expect(found.distanceTo(place)).toBeLessThan(1e-12);
    }
  });
});

describe('a body that one goes through', () => {
  const bounds = [-1, 1, -1, 1, -1, 1] as const;
  const seen = fitCamera([...bounds], [0, -1, 0], [0, 0, 1], 1, {
    projection: 'perspective',
    fieldOfView: 40,
  });
  const nearOf = (y: number): number => {
    const camera = { ...seen, position: [0, y, 0] as [number, number, number] };
    const free = distanceToBounds([...bounds], camera.position);
    return threeCamera(camera, [0, 0, 0], 1, [0, 0, 0], 4, free).near;
  };

  it('is not cut off before the eye, from outside or within', () => {
    for (const y of [-3, -1.5, -1.1, -1.01, -1.001]) expect(nearOf(y)).toBeLessThan(-1 - y);
    // Within it a thousandth of the model at most.
    for (const y of [-1, -0.9, 0, 0.99]) expect(nearOf(y)).toBeLessThan(2e-3);
  });

  it('has a distance from a place, and none from within', () => {
    expect(distanceToBounds([...bounds], [0.5, -0.5, 1])).toBe(0);
    expect(distanceToBounds([...bounds], [3, 0, 0])).toBe(2);
    expect(distanceToBounds([...bounds], [4, -5, 0])).toBe(5);
  });
});
