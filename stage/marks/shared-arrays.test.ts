import { BufferGeometry } from 'three';
import { expect, test } from 'vitest';
import { disposeShared, sharedAttribute } from './shared-arrays.ts';

const geometryOf = (places: Float32Array, corners: Uint32Array): BufferGeometry => {
  const made = new BufferGeometry();
  made.setAttribute('position', sharedAttribute(places, 3));
  made.setIndex(sharedAttribute(corners, 1));
  return made;
};

/** What a renderer would take from the card when a geometry goes. */
function takenAway(geometry: BufferGeometry): string[] {
  let taken: string[] = [];
  geometry.addEventListener('dispose', () => {
    taken = [...Object.keys(geometry.attributes), ...(geometry.index ? ['index'] : [])];
  });
  disposeShared(geometry);
  return taken;
}

test('arrays stand on the card once, and stay until the last that draws with them is gone', () => {
  const [places, corners] = [new Float32Array(9), new Uint32Array([0, 1, 2])];
  const [a, b] = [geometryOf(places, corners), geometryOf(places, corners)];
  expect(b.attributes.position).toBe(a.attributes.position);
  expect(b.index).toBe(a.index);
  expect(takenAway(a)).toEqual([]);
  expect(takenAway(b)).toEqual(['position', 'index']);
  // Drawn again later it goes to the card anew.
  expect(geometryOf(places, corners).attributes.position).not.toBe(b.attributes.position);
});

test('an array that is read in another width is another one on the card', () => {
  const array = new Float32Array(6);
  expect(sharedAttribute(array, 3)).not.toBe(sharedAttribute(array, 2));
  const other = new BufferGeometry();
  other.setAttribute('uv', sharedAttribute(array, 2));
  expect(takenAway(other)).toEqual(['uv']);
});
