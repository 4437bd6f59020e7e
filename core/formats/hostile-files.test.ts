import { describe, expect, it } from 'vitest';
import { firstMesh } from '../../tests/open-mesh.ts';
import { convertUnit, isUnit } from '../model/units.ts';
import { sayTime } from '../motion/time-text.ts';
import type { OpenedRun, OpenedTable } from './format.ts';
import { openFile } from './registry.ts';

/**
 * Small files that once ended the server, hung a reader, or were taken for something they are not. Each is made here
 * in the words of its format; the class is tested, not these bytes alone.
 */
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const refusal = async (text: string, name?: string): Promise<string> => {
  const run = (await openFile(bytes(text), name).catch((error: Error) => error)) as OpenedRun | Error;
  if (run instanceof Error) return run.message;
  try {
    for (const part of run.parts) {
      const mesh = part.at(0);
      mesh?.readMesh();
      mesh?.fields.forEach((_, i) => void mesh.readField(i));
    }
  } catch (error) {
    return (error as Error).message;
  }
  return 'read';
};

const withType = (type: string): string =>
  `<Xdmf><Domain><Grid><Topology TopologyType="Triangle" NumberOfElements="1"><DataItem Dimensions="3">0 1 2</DataItem></Topology><Geometry><DataItem Dimensions="3 3">0 0 0 1 0 0 0 1 0</DataItem></Geometry><Attribute Name="T" AttributeType="${type}"><DataItem Dimensions="3">1 2 3</DataItem></Attribute></Grid></Domain></Xdmf>`;
const msh = '$MeshFormat\n2.2 0 8\n$EndMeshFormat\n';
const nodes = '$Nodes\n3\n1 0 0 0\n2 1 0 0\n3 0 1 0\n$EndNodes\n';
const triangle = '$Elements\n1\n1 2 2 7 7 1 2 3\n$EndElements\n';

describe('counts that the bytes cannot hold', () => {
  for (const count of ['1073741824', '-1', '0.5', '1e400', 'nan', '99999999999999999999']) {
    it(`${count} in every counted section of an MSH file`, async () => {
      for (const section of ['$NodeData', '$ElementData', '$PhysicalNames', '$Nodes', '$Elements'])
        expect(await refusal(`${msh}${section}\n${count}\n`)).toMatch(/count|ends too early|ends early/);
    });
    it(`${count} as a number of vertices, of faces, and of nodes of a face in a PLY file`, async () => {
      const ply = (v: string, f: string, n: string): string =>
        `ply\nformat ascii 1.0\nelement vertex ${v}\nproperty float x\nproperty float y\nproperty float z\n` +
        `element face ${f}\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n${n} 0 1 2\n`;
      expect(await refusal(ply('3', '1', '3'))).toBe('read');
      expect(await refusal(ply(count, '1', '3'))).toMatch(/count|number/);
      expect(await refusal(ply('3', count, '3'))).toMatch(/count|number/);
      expect(await refusal(ply('3', '1', count))).toMatch(/count|number|ends/);
    });
    it(`${count} as the size of a grid`, async () => {
      const grid = `# vtk DataFile Version 3.0\nt\nASCII\nDATASET STRUCTURED_POINTS\nDIMENSIONS ${count} 2000 2000\nORIGIN 0 0 0\nSPACING 1 1 1\n`;
      expect(await refusal(grid)).toMatch(/count|too many|too large/);
    });
  }
  it('a tag of a billion in data without a mesh makes no array of a billion', async () => {
    const data = `${msh}$NodeData\n1\n"T"\n1\n0\n3\n0\n1\n1\n1000000000 5\n$EndNodeData\n`;
    const opened = await openFile(bytes(data));
    expect(() => (opened as never as { at(step: number): { points: number } }).at(0).points).toThrow(
      /cannot fit/,
    );
  });
});

describe('names that every object answers to', () => {
  it('are no types, units or sections of a file', async () => {
    for (const word of ['__proto__', 'constructor', 'toString']) {
      const legacy = `# vtk DataFile Version 3.0\nt\nBINARY\nDATASET UNSTRUCTURED_GRID\nPOINTS 3 ${word}\n${'\0'.repeat(64)}`;
      expect(await refusal(legacy)).toMatch(/are not read/);
      const ply = `ply\nformat ascii 1.0\nelement vertex 1\nproperty ${word} x\nend_header\n0\n`;
      expect(await refusal(ply)).toMatch(/not understood/);
      expect(isUnit(word)).toBe(false);
      expect(convertUnit(1, word, 'm')).toBeNull();
      const stamp = { visible: true, style: 'decimals', decimals: 1, unit: word, x: 0, y: 0 } as const;
      expect(sayTime(2, word, stamp)).not.toMatch(/NaN/);
      const { fields } = firstMesh(await openFile(bytes(withType(word)), 'a.xdmf'));
      expect(fields.map((f) => f.components)).toEqual([1]);
    }
  });
  it('nor can a negative number of components lead back in a file', async () => {
    const back =
      '# vtk DataFile Version 3.0\nt\nBINARY\nDATASET UNSTRUCTURED_GRID\nPOINT_DATA 9\nSCALARS T float -1\n';
    expect(await refusal(back)).toMatch(/no count/);
  });
});

describe('time grows with the size of a file, not with its square', () => {
  const seconds = async (text: string): Promise<number> => {
    const begin = performance.now();
    await refusal(text);
    return (performance.now() - begin) / 1000;
  };
  it('for a tag with one long word, a header without an end, and a number of many digits', async () => {
    const long = 'a'.repeat(600_000);
    expect(await seconds(`<VTKFile type="UnstructuredGrid"><Piece ${long}></Piece></VTKFile>`)).toBeLessThan(
      2,
    );
    expect(await seconds(`<VTKFile type="UnstructuredGrid"><Piece ${'a = '.repeat(150_000)}/>`)).toBeLessThan(
      2,
    );
    expect(await seconds(`${msh}$PhysicalNames\n${long}`)).toBeLessThan(2);
    expect(await seconds(`x,y\n${'1'.repeat(60_000)}!,2\n`)).toBeLessThan(2);
  });
  it('for elements within each other without end', async () => {
    const deep = '<a>'.repeat(100_000);
    expect(await refusal(`<Xdmf>${deep}`)).toMatch(/elements stand within each other/);
  });
});

describe('files that are cut off', () => {
  it('show the mesh that is whole, with a warning', async () => {
    const cut = `${msh}${nodes}${triangle}$NodeData\n1\n"T"\n1\n0\n3\n0\n1\n3\n1 5\n2 `;
    const run = (await openFile(bytes(cut))) as OpenedRun;
    expect(run.parts[0].at(0)!.readMesh().types).toHaveLength(1);
    expect(run.findings.list.join()).toMatch(/cut off in \$NodeData/);
  });
  it('are refused when the mesh itself is not whole', async () => {
    expect(await refusal(`${msh}${nodes}$Elements\n5\n`)).toMatch(/damaged|early|not there/);
    expect(await refusal(`${msh}$Nodes\n3\n1 0 0`)).toMatch(/early/);
  });
});

describe('what is no result is told by name', () => {
  it('an input deck, a listing, and CGNS in its older form', async () => {
    const deck =
      '*HEADING\nrack of tins\n*NODE\n1, 0., 0., 0.\n2, 1., 0., 0.\n3, 0., 1., 0.\n*ELEMENT, TYPE=S3\n1, 1, 2, 3\n';
    expect(await refusal(deck, 'rack.inp')).toMatch(/input deck/);
    const listing = `Oven solver, run of today\n${Array.from({ length: 20 }, (_, i) => `iteration ${i} residual of energy ${1 / (i + 1)} and of mass 0.1`).join('\n')}\n`;
    expect(await refusal(listing, 'run.log')).toMatch(/listing/);
    expect(await refusal(`@(#)ADF Database Version A02011>${'\0'.repeat(100)}`)).toMatch(/ADF form/);
  });
});

describe('tables as people write them', () => {
  const table = async (text: string): Promise<OpenedTable> => (await openFile(bytes(text))) as OpenedTable;
  it('keep line breaks within quotes', async () => {
    const t = await table('name,T,p\n"tin\nupper",20,1\n"tin, lower",30,2\n"rack ""A""",40,3\n');
    expect(t.rows).toBe(3);
    expect(Array.from(t.numbers(1))).toEqual([20, 30, 40]);
    expect(t.texts(0)[1]).toBe('tin, lower');
    expect(t.texts(0)[2]).toBe('rack "A"');
  });
  it('do not lose the rest to a quote that is never closed', async () => {
    const rows = Array.from({ length: 2000 }, (_, i) => `${i},${2 * i},5" pipe`).join('\n');
    const t = await table(`a,b,c\n${rows}\n`);
    expect(t.rows).toBe(2000);
  });
  it('name rows that are too long or too short by their number', async () => {
    const t = await table('a,b,c\n1,2,3\n4,5\n6,7,8\n9,10,11,12\n13,14,15\n16,17,18\n19,20,21\n22,23,24\n');
    expect(t.findings.list.join()).toMatch(/row 2 has 2, row 4 has 4 instead of 3 entries/);
    expect(t.numbers(2)[1]).toBeNaN();
  });
  it('keep the names of a header that is too short', async () => {
    const t = await table('time,mass\n0,1,5\n1,2,6\n2,3,7\n');
    expect(t.columns.map((c) => c.name)).toEqual(['time', 'mass', 'column 3']);
    expect(t.findings.list.join()).toMatch(/names 2 of 3 columns/);
  });
  it('keep the numbers of a column with some text, blank the rest, and say so', async () => {
    const t = await table('t,T\n0,20\n1,broken\n2,30\n3,40\n4,n/a\n');
    expect(t.columns[1].numeric).toBe(true);
    expect(Array.from(t.numbers(1))).toEqual([20, Number.NaN, 30, 40, Number.NaN]);
    expect(t.findings.list.join()).toMatch(/T: 1 entry is no number/);
  });
});

describe('a list of files', () => {
  it('gives an entry whose time is no number one by its place, and says so', async () => {
    const list = `<VTKFile type="Collection"><Collection>${['0', 'nan', '2'].map((t, i) => `<DataSet timestep="${t}" file="s${i}.vtu"/>`).join('')}</Collection></VTKFile>`;
    const opened = (await openFile(bytes(list))) as never as {
      entries: { time: number }[];
      findings: { list: string[] };
    };
    expect(opened.entries.map((e) => e.time)).toEqual([0, 1, 2]);
    expect(opened.findings.list.join()).toMatch(/entry 2 states "nan"/);
  });
});
