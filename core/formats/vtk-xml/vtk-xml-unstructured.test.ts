import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { type BuildOptions, buildVtu, hexBlock } from '../../../tests/vtu-builder.ts';
import { fastTools } from '../../../web/server/file-source.ts';
import { ReadError } from '../../model/read-error.ts';
import { portableTools } from '../portable-tools.ts';
import { openFile } from '../registry.ts';
import { vtkXmlUnstructured } from './vtk-xml-unstructured.ts';
import { writeVtu } from './vtk-xml-write.ts';

const open = (bytes: Uint8Array, tools = {}) => openWith(vtkXmlUnstructured, bytes, tools);
const block = hexBlock(3);
const points = block.points.length / 3;
const temperature = Array.from({ length: points }, (_, i) => 20 + Math.sqrt(i) / 7);
const load = Array.from({ length: 27 * 2 }, (_, i) => i - 20);
const fields = [
  { name: 'temperature [°C]', location: 'point', components: 1, type: 'Float64', data: temperature },
  { name: 'load', location: 'cell', components: 2, type: 'Int16', data: load },
] as const;

const encodings: BuildOptions[] = [];
for (const header of [4, 8] as const) {
  for (const big of [false, true]) {
    for (const zlib of [false, true]) {
      encodings.push({ format: 'binary', header, big, zlib });
      for (const appended of ['raw', 'base64'] as const)
        encodings.push({ format: 'appended', appended, header, big, zlib });
    }
  }
}
encodings.push({ format: 'ascii', header: 4, big: false, zlib: false });

describe('reading every encoding', () => {
  for (const o of encodings) {
    const name = `${o.format} ${o.appended ?? ''} header ${o.header} ${o.big ? 'big' : 'little'} ${o.zlib ? 'zlib' : 'plain'}`;
    for (const [host, tools] of [
      ['portable', portableTools],
      ['node', fastTools],
    ] as const) {
      it(`${name}, ${host}`, () => {
        const opened = open(buildVtu(block, [...fields], o), tools);
        expect(opened.fields).toEqual([
          { name: 'temperature [°C]', location: 'point', components: 1, unit: '°C' },
          { name: 'load', location: 'cell', components: 2, unit: null },
        ]);
        const mesh = opened.readMesh();
        expect(Float32Array.from(mesh.points)).toEqual(block.points);
        expect(mesh.connectivity).toEqual(block.connectivity);
        expect(mesh.offsets).toEqual(block.offsets);
        expect(Array.from(opened.readField(0))).toEqual(temperature);
        expect(Array.from(opened.readField(1))).toEqual(load);
      });
    }
  }

  it('keeps every number type', () => {
    const plain: BuildOptions = { format: 'appended', appended: 'raw', header: 8, big: true, zlib: true };
    for (const type of [
      'Int8',
      'UInt8',
      'Int16',
      'UInt16',
      'Int32',
      'UInt32',
      'Int64',
      'UInt64',
      'Float32',
      'Float64',
    ]) {
      const data = Array.from({ length: points }, (_, i) =>
        type.startsWith('U') || type.startsWith('F') ? i : i - 30,
      );
      const opened = open(
        buildVtu(block, [{ name: 'n', location: 'point', components: 1, type, data }], plain),
      );
      expect(Array.from(opened.readField(0)), type).toEqual(data);
    }
  });

  it('reads real files of four encodings as one and the same mesh', () => {
    const meshes = ['01', '05', '09', '12'].map((n) =>
      open(readFileSync(`tests/fixtures/family/case_${n}.vtu`)).readMesh(),
    );
    for (const mesh of meshes) {
      expect(mesh.types).toHaveLength(2112);
      expect(mesh.connectivity).toEqual(meshes[0].connectivity);
      for (let i = 0; i < mesh.points.length; i++) expect(mesh.points[i]).toBeCloseTo(meshes[0].points[i], 6);
    }
  });
});

it('gives plain arrays, whatever the host calls its bytes', () => {
  const raw: BuildOptions = { format: 'appended', appended: 'raw', header: 8, big: false, zlib: false };
  const data = Array.from({ length: points }, (_, i) => i);
  const opened = open(
    buildVtu(block, [{ name: 'n', location: 'point', components: 1, type: 'UInt8', data }], raw),
    fastTools,
  );
  expect(opened.readMesh().types.constructor).toBe(Uint8Array);
  expect(opened.readField(0).constructor).toBe(Uint8Array);
});

describe('writing', () => {
  it('gives back mesh, fields, units and time', () => {
    const data = Float32Array.from(temperature);
    const bytes = writeVtu(
      block,
      [{ name: 'a < b & "c"', location: 'point', components: 1, unit: 'm/s', data }],
      12.5,
      { length: 'mm', time: 's' },
    );
    const opened = open(bytes);
    expect(opened).toMatchObject({ time: 12.5, lengthUnit: 'mm', timeUnit: 's', points, cells: 27 });
    expect(opened.fields).toEqual([{ name: 'a < b & "c"', location: 'point', components: 1, unit: 'm/s' }]);
    expect(opened.readField(0)).toEqual(data);
    expect(opened.readMesh().connectivity).toEqual(block.connectivity);
  });
});

describe('bad input gets a reason, a place and a remedy', () => {
  const raw: BuildOptions = { format: 'appended', appended: 'raw', header: 8, big: false, zlib: false };
  const ascii: BuildOptions = { format: 'ascii', header: 4, big: false, zlib: false };
  const refuse = (bytes: Uint8Array): ReadError => {
    try {
      const opened = open(bytes);
      opened.readMesh();
      opened.fields.forEach((_, i) => void opened.readField(i));
    } catch (error) {
      expect(error).toBeInstanceOf(ReadError);
      const told = error as ReadError;
      for (const text of [told.reason, told.where, told.remedy]) expect(text.length).toBeGreaterThan(3);
      return told;
    }
    throw new Error('it was read');
  };

  it('empty', () => expect(openFile(new Uint8Array(0))).rejects.toThrow(/empty/));
  it('garbage', () =>
    expect(openFile(Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256))).rejects.toThrow(
      /no known format/,
    ));
  it('cut off anywhere', () => {
    for (const o of [raw, ascii, { ...raw, zlib: true }, { ...raw, format: 'binary' as const }]) {
      const whole = buildVtu(block, [...fields], o);
      for (let part = 1; part < 12; part++)
        refuse(whole.subarray(0, Math.floor(((whole.length - 60) * part) / 12)));
    }
  });
  it('more points announced than there are', () => {
    expect(
      refuse(buildVtu(block, [], ascii, (t) => t.replace('NumberOfPoints="64"', 'NumberOfPoints="65"')))
        .where,
    ).toBe('Points');
  });
  it('fewer cells announced than there are', () => {
    expect(
      refuse(buildVtu(block, [], raw, (t) => t.replace('NumberOfCells="27"', 'NumberOfCells="26"'))).where,
    ).toMatch(/types/);
  });
  it('a count of 1e12', () => {
    expect(
      refuse(
        buildVtu(block, [], raw, (t) => t.replace('NumberOfPoints="64"', 'NumberOfPoints="1000000000000"')),
      ).reason,
    ).toMatch(/1000000000000/);
  });
  it('an array length of 1e12', () => {
    const bytes = buildVtu(block, [], raw);
    const mark = bytes.indexOf('_', bytes.indexOf('AppendedData')) + 1;
    bytes.writeBigUInt64LE(10n ** 12n, mark);
    expect(refuse(bytes).reason).toMatch(/1000000000000|left/);
  });
  it('a zlib claim beyond what zlib can hold', () => {
    const bytes = buildVtu(block, [], { ...raw, zlib: true });
    const mark = bytes.indexOf('_', bytes.indexOf('AppendedData')) + 1;
    bytes.writeBigUInt64LE(10n ** 9n, mark + 8);
    expect(refuse(bytes).reason).toMatch(/zlib/);
  });
  it('an index out of range', () => {
    const wrong = { ...block, connectivity: block.connectivity.slice() };
    wrong.connectivity[100] = 64;
    expect(refuse(buildVtu(wrong, [], ascii))).toMatchObject({ where: 'Cells / connectivity, entry 100' });
  });
  it('an entity bomb', () => {
    const bomb = (t: string): string =>
      t.replace('<VTKFile', '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>\n<VTKFile');
    expect(refuse(buildVtu(block, [], ascii, bomb)).reason).toMatch(/entities/);
  });
  it('a word where a number should be', () => {
    expect(
      refuse(buildVtu(block, [], ascii, (t) => t.replace('0.6666666865348816', '0.66x'))).reason,
    ).toMatch(/not a number/);
  });
  it('a compression it does not know', () => {
    expect(
      refuse(buildVtu(block, [], ascii, (t) => t.replace('header_type', 'compressor="other" header_type')))
        .reason,
    ).toMatch(/compression/);
  });
  it('a hexahedron of seven nodes', () => {
    const wrong = { ...block, offsets: block.offsets.slice() };
    wrong.offsets[1] = 7;
    expect(refuse(buildVtu(wrong, [], ascii)).reason).toMatch(/needs 8 nodes but cell 0 has 7/);
  });
});
