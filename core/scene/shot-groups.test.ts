import { expect, test } from 'vitest';
import { readTags, sceneShotHeadings, shotGroups, tagsOf } from './shot-groups.ts';

const shots = [
  { id: 1, kind: 'picture' as const, folder: null, tags: ['review'] },
  { id: 2, kind: 'charts' as const, folder: null, tags: [] },
  { id: 3, kind: 'picture' as const, folder: 'Customer', tags: ['review', 'door'] },
  { id: 4, kind: 'picture' as const, folder: null, tags: ['door', 'review'] },
  { id: 5, kind: 'film' as const, folder: 'Customer', tags: [] },
];

test('shots stand under headings of one’s own, and the others by what they show', () => {
  expect(
    shotGroups(shots, sceneShotHeadings).map((g) => [g.heading, g.own, g.shots.map((s) => s.id)]),
  ).toEqual([
    ['Customer', true, [3, 5]],
    ['Pictures', false, [1, 4]],
    ['Charts and readings', false, [2]],
  ]);
  expect(
    shotGroups(shots, sceneShotHeadings, 'door').map((g) => [g.heading, g.shots.map((s) => s.id)]),
  ).toEqual([
    ['Customer', [3]],
    ['Pictures', [4]],
  ]);
  expect(shotGroups([], sceneShotHeadings)).toEqual([]);
});

test('tags are read once each, and listed by how many have them', () => {
  expect(readTags(' door, review,, door ,fan speed ')).toEqual(['door', 'review', 'fan speed']);
  expect(tagsOf(shots)).toEqual(['review', 'door']);
});
