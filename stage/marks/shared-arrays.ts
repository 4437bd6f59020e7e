import { BufferAttribute, type BufferGeometry, type TypedArray } from 'three';

interface Shared {
  attribute: BufferAttribute;
  /** How many geometries draw with it. */
  uses: number;
}

const known = new WeakMap<TypedArray, Shared>();

/** An array as it stands on the card: once, however many stages side by side draw with it. It must not change any more. */
export function sharedAttribute(array: TypedArray, width: number): BufferAttribute {
  const shared = known.get(array) ?? { attribute: new BufferAttribute(array, width), uses: 0 };
  if (shared.attribute.itemSize !== width) return new BufferAttribute(array, width);
  known.set(array, shared);
  shared.uses++;
  return shared.attribute;
}

/** Disposes of a geometry; arrays that others still draw with stay on the card. */
export function disposeShared(geometry: BufferGeometry): void {
  for (const [name, attribute] of Object.entries(geometry.attributes))
    if (attribute instanceof BufferAttribute && isStillUsed(attribute)) geometry.deleteAttribute(name);
  if (geometry.index && isStillUsed(geometry.index)) geometry.setIndex(null);
  geometry.dispose();
}

/** Takes one use away. */
function isStillUsed(attribute: BufferAttribute): boolean {
  const shared = known.get(attribute.array);
  if (shared?.attribute !== attribute) return false;
  shared.uses--;
  if (shared.uses > 0) return true;
  known.delete(attribute.array);
  return false;
}
