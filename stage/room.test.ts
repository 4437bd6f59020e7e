import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { sweepShape } from './room.ts';

describe('the shape of a sweep', () => {
  const shape = sweepShape();
  const { position, normal } = shape.attributes;
  const places = Array.from({ length: position.count }, (_, i) =>
    new Vector3().fromBufferAttribute(position, i),
  );
  const normals = Array.from({ length: normal.count }, (_, i) =>
    new Vector3().fromBufferAttribute(normal, i),
  );

  it('lies level below the model and stands upright around it', () => {
    for (const [i, place] of places.entries()) {
      expect(Math.hypot(place.x, place.y)).toBeLessThanOrEqual(1 + 1e-6);
      if (Math.hypot(place.x, place.y) < 0.4) expect(place.z).toBeCloseTo(0, 9);
      // Inwards and upwards, never out of the room.
      expect(normals[i].z).toBeGreaterThan(-0.01);
      expect(normals[i].dot(new Vector3(place.x, place.y, 0))).toBeLessThan(0.01);
    }
    expect(Math.max(...places.map((p) => p.z))).toBeCloseTo(1, 9);
  });
  it('turns its face to where its normals point: from outside it is not in the way', () => {
    const index = shape.index!;
    for (let i = 0; i < index.count; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => places[index.getX(i + k)]);
      const face = new Vector3().crossVectors(b.clone().sub(a), c.clone().sub(a));
      // At the middle of the floor triangles have no width.
      if (face.length() < 1e-9) continue;
      expect(face.dot(normals[index.getX(i)])).toBeGreaterThan(0);
    }
  });
});
