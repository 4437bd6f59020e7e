import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { memorySource } from '../bytes/byte-source.ts';
import type { OpenedFields } from '../format.ts';
import { portableTools } from '../portable-tools.ts';
import { msh } from './msh.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = (text: string) => openWith(msh, bytes(text));

const format = (version: string): string => `$MeshFormat\n${version} 0 8\n$EndMeshFormat\n`;
const names = '$PhysicalNames\n2\n2 5 "wall"\n3 7 "chamber air"\n$EndPhysicalNames\n';
/** Four nodes with gaps in their numbers: one tetrahedron. */
const nodes = '$Nodes\n4\n10 0 0 0\n20 1 0 0\n30 0 1 0\n45 0 0 1\n$EndNodes\n';
const elements = '$Elements\n2\n1 2 2 5 1 10 20 30\n8 4 2 7 1 10 20 30 45\n$EndElements\n';
const data = (kind: string, time: number, values: [number, number[]][], name = 'heat'): string =>
  `$${kind}\n1\n"${name}"\n1\n${time}\n3\n0\n${values[0][1].length}\n${values.length}\n${values.map(([t, v]) => `${t} ${v.join(' ')}`).join('\n')}\n$End${kind}\n`;
const mesh = format('2.2') + names + nodes + elements;

describe('MSH', () => {
  it('has named groups as parts, with just the nodes they use', () => {
    const { run } = open(mesh);
    const shown = run.parts.map((p) => {
      const m = p.at(0)!;
      return [p.name, m.points, Array.from(m.readMesh().types)];
    });
    expect(shown).toEqual([
      ['wall', 3, [5]],
      ['chamber air', 4, [10]],
    ]);
  });
  it('has values by node and element, by the tags of the file, at each time', () => {
    const text =
      mesh +
      data('NodeData', 1, [
        [45, [4]],
        [10, [1]],
        [20, [2]],
      ]) +
      data('ElementData', 1, [[8, [1, 2, 3]]], 'flow') +
      data('NodeData', 0.5, [[10, [9]]]);
    const { run } = open(text);
    expect(run.steps).toEqual([0.5, 1]);
    const air = run.parts[1].at(1)!;
    expect(air.fields.map((f) => [f.name, f.location, f.components])).toEqual([
      ['heat', 'point', 1],
      ['flow', 'cell', 3],
    ]);
    expect(Array.from(air.readField(0))).toEqual([1, 2, Number.NaN, 4]);
    expect(Array.from(air.readField(1))).toEqual([1, 2, 3]);
    expect(Array.from(run.parts[1].at(0)!.readField(0))).toEqual([9, Number.NaN, Number.NaN, Number.NaN]);
  });
  it('of version 4.1 has its elements by entity, and the groups of these', () => {
    const text =
      `${format('4.1')}$PhysicalNames\n1\n2 3 "floor"\n$EndPhysicalNames\n` +
      '$Entities\n0 0 1 0\n1 0 0 0 1 1 0 1 3 0\n$EndEntities\n' +
      '$Nodes\n1 4 1 4\n2 1 0 4\n1\n2\n3\n4\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n$EndNodes\n' +
      '$Elements\n1 1 1 1\n2 1 3 1\n1 1 2 3 4\n$EndElements\n';
    const { run } = open(text);
    const part = run.parts[0].at(0)!;
    expect(run.parts[0].name).toBe('floor');
    expect(Array.from(part.readMesh().types)).toEqual([9]);
    expect(Array.from(part.readMesh().points.subarray(6, 9))).toEqual([1, 1, 0]);
  });
  it('with data alone are fields for the mesh of another file', () => {
    const opened = msh.open(
      memorySource(
        bytes(
          format('2.2') +
            data('NodeData', 3, [
              [1, [5]],
              [3, [7]],
            ]),
        ),
      ),
      portableTools,
    ) as OpenedFields;
    expect(opened.kind).toBe('fields');
    expect(opened.steps).toEqual([3]);
    expect(opened.at(0).points).toBe(3);
    expect(Array.from(opened.at(0).readField(0))).toEqual([5, Number.NaN, 7]);
  });
  it('cut off in its data shows the mesh, and says so', () => {
    const opened = open(mesh + data('NodeData', 1, [[10, [1]]]).slice(0, -14));
    expect(opened.run.parts).toHaveLength(2);
    expect(opened.findings.list.join()).toMatch(/cut off in \$NodeData/);
  });
  it('with elements of unknown types leaves them out, and says so', () => {
    const opened = open(mesh.replace('1 2 2 5 1 10 20 30', '1 77 2 5 1 10 20 30'));
    expect(opened.findings.list.join()).toMatch(/type 77 are not read|cut off/);
  });
  it('that lacks nodes, elements, or a version that is read, is refused', () => {
    expect(() =>
      open(mesh.replace('10 20 30 45\n$End', '10 20 30 46\n$End')).run.parts[1].at(0)!.readMesh(),
    ).toThrow(/uses node 46/);
    expect(() => open(format('2.2') + nodes)).toThrow(/nodes but no elements/);
    expect(() => open(format('1.0') + nodes)).toThrow(/version 1 is not read/);
    expect(() => open(format('2.2'))).toThrow(/neither a mesh nor data/);
    expect(() => open(mesh.slice(0, mesh.indexOf('$EndNodes')))).toThrow();
  });
  it('is told by its first word', () => {
    expect(
      [mesh, '$Comments\nx\n$EndComments\n', '$Nodes\n'].map((t) => msh.detect(bytes(t), 'a.msh')),
    ).toEqual([true, true, false]);
  });
});
