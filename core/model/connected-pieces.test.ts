import { expect, it } from 'vitest';
import { hexBlockBetween, quadSheet } from '../../tests/made-solids.ts';
import { joinMeshes } from '../ops/kernels/join-meshes.ts';
import { connectedPieces } from './connected-pieces.ts';
import type { Mesh } from './mesh.ts';

const moved = (mesh: Mesh, by: number): Mesh => ({
  ...mesh,
  points: mesh.points.map((v, i) => (i % 3 === 0 ? v + by : v)),
});

it('bodies that share no node are pieces, named by their first point', () => {
  const block = hexBlockBetween(3);
  expect(new Set(connectedPieces(block))).toEqual(new Set([0]));
  const three = joinMeshes([block, moved(block, 2), quadSheet(2, 2, [0, 1], [0, 1])]);
  const pieces = connectedPieces(three);
  expect([...new Set(pieces)]).toEqual([0, 64, 128]);
  expect(pieces.filter((p) => p === 64)).toHaveLength(64);
});

it('whatever the order of cells; points of no cell stand alone', () => {
  const line = (ends: number[]): Mesh => ({
    points: new Float32Array(3 * 7),
    types: new Uint8Array(ends.length / 2).fill(3),
    offsets: Uint32Array.from({ length: ends.length / 2 + 1 }, (_, i) => 2 * i),
    connectivity: Uint32Array.from(ends),
  });
  expect([...connectedPieces(line([4, 5, 0, 1, 5, 1]))]).toEqual([0, 0, 2, 3, 0, 0, 6]);
  expect([...connectedPieces(line([5, 1, 4, 5, 0, 1]))]).toEqual([0, 0, 2, 3, 0, 0, 6]);
});
