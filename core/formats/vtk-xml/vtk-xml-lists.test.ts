import { describe, expect, it } from 'vitest';
import { memorySource } from '../bytes/byte-source.ts';
import type { FileFormat, OpenedCollection } from '../format.ts';
import { portableTools } from '../portable-tools.ts';
import { seriesJson, vtkXmlCollection, vtkXmlMultiBlock, vtkXmlParallel } from './vtk-xml-lists.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = (format: FileFormat, text: string): OpenedCollection =>
  format.open(memorySource(bytes(text)), portableTools) as OpenedCollection;
const xml = (type: string, inner: string): string =>
  `<?xml version="1.0"?><VTKFile type="${type}" version="1.0">${inner}</VTKFile>`;

describe('files that list others', () => {
  it('collections give each file its time and part', () => {
    const { entries, findings } = open(
      vtkXmlCollection,
      xml(
        'Collection',
        '<Collection><DataSet timestep="0.5" part="0" file="a.vtu"/><DataSet timestep="0.5" name="rack" file="b.vtu"/><DataSet timestep="1" file="c.vtu"/></Collection>',
      ),
    );
    expect(entries).toEqual([
      { time: 0.5, part: '0', file: 'a.vtu', piece: null },
      { time: 0.5, part: 'rack', file: 'b.vtu', piece: null },
      { time: 1, part: '0', file: 'c.vtu', piece: null },
    ]);
    expect(findings.list).toEqual([]);
  });
  it('collections with entries that state no time or file say so, and place them between the others', () => {
    const { entries, findings } = open(
      vtkXmlCollection,
      xml(
        'Collection',
        '<Collection><DataSet timestep="1" file="a.vtu"/><DataSet timestep="late" file="b.vtu"/><DataSet timestep="3"/><DataSet timestep="3" file="c.vtu"/><DataSet timestep="" file="d.vtu"/></Collection>',
      ),
    );
    expect(entries.map((e) => e.time)).toEqual([1, 2, 3, 5]);
    expect(findings.list.join()).toMatch(/"late", which is no time.*names no file/);
  });
  it('parallel files give the partitions of one part, of every kind', () => {
    for (const kind of [
      'PUnstructuredGrid',
      'PPolyData',
      'PImageData',
      'PRectilinearGrid',
      'PStructuredGrid',
    ]) {
      const text = xml(kind, `<${kind}><Piece Source="oven_0.vtu"/><Piece Source="oven_1.vtu"/></${kind}>`);
      expect(vtkXmlParallel.detect(bytes(text), 'x')).toBe(true);
      expect(open(vtkXmlParallel, text).entries.map((e) => [e.file, e.piece])).toEqual([
        ['oven_0.vtu', 0],
        ['oven_1.vtu', 1],
      ]);
    }
  });
  it('multi-block files name parts by the blocks above them', () => {
    const { entries } = open(
      vtkXmlMultiBlock,
      xml(
        'vtkMultiBlockDataSet',
        '<vtkMultiBlockDataSet><Block index="0" name="chamber"><DataSet index="0" name="air" file="air.vtu"/><DataSet index="1" file="rack.vtu"/></Block><DataSet index="1" file="door.vtp"/><DataSet index="2" name="empty"/></vtkMultiBlockDataSet>',
      ),
    );
    expect(entries.map((e) => [e.part, e.file])).toEqual([
      ['chamber / air', 'air.vtu'],
      ['chamber / 1', 'rack.vtu'],
      ['1', 'door.vtp'],
    ]);
  });
  it('a series in JSON counts where it states no time', () => {
    const text =
      '{"file-series-version":"1.0","files":[{"name":"a.vtu","time":0.25},{"name":"b.vtu"},{"time":3}]}';
    expect(seriesJson.detect(bytes(text), 'a.series')).toBe(true);
    const { entries, findings } = open(seriesJson, text);
    expect(entries.map((e) => [e.file, e.time])).toEqual([
      ['a.vtu', 0.25],
      ['b.vtu', 1],
    ]);
    expect(findings.list).toEqual(['entry 3 of the series names no file and is left out']);
    expect(() => open(seriesJson, '{"files":[')).toThrow(/JSON is damaged/);
  });
  it('that list nothing are refused', () => {
    expect(() => open(vtkXmlCollection, xml('Collection', '<Collection></Collection>'))).toThrow(
      /lists no files/,
    );
    expect(() => open(vtkXmlParallel, xml('PPolyData', '<PPolyData/>'))).toThrow(/no partitions/);
    expect(() => open(vtkXmlMultiBlock, xml('vtkMultiBlockDataSet', '<vtkMultiBlockDataSet/>'))).toThrow(
      /no blocks/,
    );
    expect(() => open(seriesJson, '{"file-series-version":"1.0","files":3}')).toThrow(/lists no files/);
  });
});
