import type { NumberArray } from '../../model/arrays.ts';
import { POLYGON, QUAD, TRIANGLE } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { ReadError } from '../../model/read-error.ts';
import { asUint32 } from '../bytes/binary-numbers.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import { checkStarts } from '../bytes/counts.ts';
import { cellsOfFaces } from '../cells/polyhedral-cells.ts';
import { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { once, openedRun } from '../door/opened-run.ts';
import type { FileFormat, OpenedMesh, OpenedPart, RawMesh, ReadTools } from '../format.ts';
import { type CaseField, fieldClasses, readCaseField } from './volume-case-fields.ts';
import { CaseText, caseHeader } from './volume-case-text.ts';

const isPoints = (head: Uint8Array): boolean => {
  const header = caseHeader(head);
  return header?.class === 'vectorField' && header.object === 'points';
};

/**
 * The folder layout of open finite-volume solvers: `constant/polyMesh` with points, faces, owner, neighbour and
 * boundary, and a folder for each time with a file for each field. It is opened by its file of points.
 */
export const volumeCase: FileFormat = {
  id: 'volume-case',
  name: 'finite-volume case folder',
  extensions: [],
  manySteps: true,
  detect: isPoints,
  open(source, tools) {
    const findings = new Findings();
    const mesh = new CaseMesh(source, tools, findings);
    const times = timeFolders(tools);
    const fields = new CaseFields(tools, times);
    const parts: OpenedPart[] = [
      { name: 'interior', kind: 'mesh', at: (step) => interiorState(mesh, fields, step) },
      ...mesh.patches
        .filter((p) => p.count > 0)
        .map(
          (patch): OpenedPart => ({
            name: patch.name,
            kind: 'mesh',
            at: (step) => patchState(mesh, patch, fields, step),
          }),
        ),
    ];
    const own = tools.name.split('/');
    return openedRun(parts, {
      steps: times.length > 0 ? times.map((t) => Number(t)) : [null],
      lengthUnit: 'm',
      timeUnit: times.length > 1 ? 's' : null,
      findings,
      uses: fields.files,
      title: own.length > 3 ? (own[own.length - 4] ?? null) : 'case',
    });
  },
};

/** All other files of a case: they are read through the file of points. */
export const volumeCaseFile: FileFormat = {
  id: 'volume-case-file',
  name: 'file of a finite-volume case',
  extensions: [],
  companion: 'a finite-volume case folder with constant/polyMesh/points',
  detect: (head) => caseHeader(head) !== null,
  open() {
    throw new ReadError('the file is only a part of a case', 'whole file', 'Bring in the whole case folder.');
  },
};

interface Patch {
  name: string;
  type: string;
  first: number;
  count: number;
}

class CaseMesh {
  readonly patches: Patch[];
  private readonly faces: () => { starts: Uint32Array; nodes: Uint32Array };
  readonly owner: () => Uint32Array;
  readonly points: () => Float64Array;
  readonly interior: () => RawMesh;

  constructor(source: ByteSource, tools: ReadTools, findings: Findings) {
    const beside = (name: string): ByteSource => {
      const found = tools.beside(name);
      if (found) return found;
      throw new ReadError(
        `the file "${name}" is not beside the points`,
        'polyMesh',
        'Bring in the whole case folder.',
      );
    };
    this.patches = readPatches(beside('boundary'));
    this.points = once(() => {
      const text = new CaseText(source, 'points');
      return Float64Array.from(text.numbers(text.count(), 3, 'scalar'));
    });
    this.faces = once(() => readFaces(beside('faces')));
    this.owner = once(() => readLabels(beside('owner'), 'owner'));
    this.interior = once(() => {
      const { starts, nodes } = this.faces();
      const owner = this.owner();
      const neighbour = readLabels(beside('neighbour'), 'neighbour');
      if (owner.length !== starts.length - 1)
        throw new ReadError(
          `${starts.length - 1} faces have ${owner.length} owners`,
          'owner',
          'Write the mesh again.',
        );
      const { cellStarts, facesOf } = facesOfCells(owner, neighbour);
      return admitMesh(
        { points: this.points(), ...cellsOfFaces(cellStarts, facesOf, starts, nodes) },
        findings,
      );
    });
  }

  cellCount(): number {
    return this.interior().types.length;
  }

  /** The faces of a patch as a surface with just its points. */
  surface(patch: Patch, findings: Findings): RawMesh {
    const { starts, nodes } = this.faces();
    const points = this.points();
    if (patch.first + patch.count >= starts.length)
      throw new ReadError(
        `the patch ${patch.name} reaches behind the last face`,
        'boundary',
        'Write the mesh again.',
      );
    const map = new Map<number, number>();
    const types = new Uint8Array(patch.count);
    const offsets = new Uint32Array(patch.count + 1);
    const connectivity: number[] = [];
    for (let f = 0; f < patch.count; f++) {
      const from = starts[patch.first + f];
      const to = starts[patch.first + f + 1];
      for (let i = from; i < to; i++) {
        let p = map.get(nodes[i]);
        if (p === undefined) {
          p = map.size;
          map.set(nodes[i], p);
        }
        connectivity.push(p);
      }
      types[f] = to - from === 3 ? TRIANGLE : to - from === 4 ? QUAD : POLYGON;
      offsets[f + 1] = connectivity.length;
    }
    const own = new Float64Array(3 * map.size);
    for (const [p, i] of map) for (let k = 0; k < 3; k++) own[3 * i + k] = points[3 * p + k];
    return admitMesh({ points: own, types, offsets, connectivity: Uint32Array.from(connectivity) }, findings);
  }
}

function readPatches(source: ByteSource): Patch[] {
  const text = new CaseText(source, 'boundary');
  const count = text.count();
  text.expect('(');
  const out: Patch[] = [];
  for (let i = 0; i < count; i++) {
    const patch: Patch = { name: text.word(), type: '', first: 0, count: 0 };
    text.expect('{');
    for (let key = text.word(); key !== '}' && key !== ''; key = text.word()) {
      if (key === 'nFaces') patch.count = text.count();
      else if (key === 'startFace') patch.first = text.count();
      else if (key === 'type') {
        patch.type = text.word();
        if (text.peek() === ';') text.word();
        continue;
      }
      text.skipEntry();
    }
    // Faces between the pieces of a divided case, and the sides of a flat one, are no walls.
    if (!/^(processor|processorCyclic|empty)$/.test(patch.type)) out.push(patch);
  }
  return out;
}

function readFaces(source: ByteSource): { starts: Uint32Array; nodes: Uint32Array } {
  const text = new CaseText(source, 'faces');
  const count = text.count();
  if (text.header.class === 'faceCompactList') {
    const starts = asUint32(text.numbers(count, 1, 'label'));
    const nodes = asUint32(text.numbers(text.count(), 1, 'label'));
    if (starts.length === 0)
      throw new ReadError('the list of faces is empty', 'faces', 'Write the mesh again.');
    checkStarts(starts, nodes.length, 'faces');
    return { starts, nodes };
  }
  text.expect('(');
  const starts = new Uint32Array(count + 1);
  const nodes: number[] = [];
  for (let f = 0; f < count; f++) {
    const n = text.count();
    for (const p of text.numbers(n, 1, 'label')) nodes.push(p);
    starts[f + 1] = nodes.length;
  }
  return { starts, nodes: Uint32Array.from(nodes) };
}

function readLabels(source: ByteSource, where: string): Uint32Array {
  const text = new CaseText(source, where);
  return asUint32(text.numbers(text.count(), 1, 'label'));
}

function facesOfCells(
  owner: Uint32Array,
  neighbour: Uint32Array,
): { cellStarts: Uint32Array; facesOf: Uint32Array } {
  if (neighbour.length > owner.length)
    throw new ReadError(
      `${neighbour.length} neighbours belong to ${owner.length} faces`,
      'neighbour',
      'Write the mesh again.',
    );
  let cells = 0;
  for (const c of owner) if (c + 1 > cells) cells = c + 1;
  if (cells > owner.length)
    throw new ReadError(
      `a face belongs to cell ${cells - 1}, more than there are faces`,
      'owner',
      'Write the mesh again.',
    );
  const cellStarts = new Uint32Array(cells + 1);
  for (const c of owner) cellStarts[c + 1]++;
  for (const c of neighbour) {
    if (c >= cells)
      throw new ReadError(`a face leads to cell ${c} of ${cells}`, 'neighbour', 'Write the mesh again.');
    cellStarts[c + 1]++;
  }
  for (let c = 0; c < cells; c++) cellStarts[c + 1] += cellStarts[c];
  const fill = cellStarts.slice();
  const facesOf = new Uint32Array(cellStarts[cells]);
  for (let f = 0; f < owner.length; f++) facesOf[fill[owner[f]]++] = f;
  for (let f = 0; f < neighbour.length; f++) facesOf[fill[neighbour[f]]++] = f;
  return { cellStarts, facesOf };
}

/** Folders named by a time, in order; a time without fields is no step. */
function timeFolders(tools: ReadTools): string[] {
  const isTime = (n: string): boolean => /^\d+(\.\d+)?(e[-+]?\d+)?$/i.test(n);
  const named = tools.listBeside('../..').filter(isTime);
  const filled = named.filter((t) =>
    tools.listBeside(`../../${t}`).some((f) => fieldHead(tools, `../../${t}/${f}`) !== null),
  );
  const later = filled.filter((t) => Number(t) > 0);
  // The state before the start is often only a setting of the case; it counts when nothing else is there.
  const used = later.length > 0 && filled.length > 1 && !sameFields(tools, filled) ? later : filled;
  return used.sort((a, b) => Number(a) - Number(b));
}

function sameFields(tools: ReadTools, times: string[]): boolean {
  const list = (t: string): string =>
    tools
      .listBeside(`../../${t}`)
      .filter((f) => fieldHead(tools, `../../${t}/${f}`))
      .join();
  return new Set(times.map(list)).size === 1;
}

function fieldHead(tools: ReadTools, path: string): keyof typeof fieldClasses | null {
  const source = tools.beside(path);
  const kind = source ? caseHeader(source.read(0, 4096))?.class : null;
  return kind && fieldClasses[kind] ? kind : null;
}

interface FieldFile {
  name: string;
  header: Omit<FieldHeader, 'name'>;
  read(): CaseField;
}

/** The fields of each time folder, read once each. */
class CaseFields {
  readonly files: string[] = [];
  private readonly steps: FieldFile[][];

  constructor(tools: ReadTools, times: string[]) {
    for (const name of ['boundary', 'faces', 'owner', 'neighbour']) this.files.push(name);
    this.steps = times.map((time) =>
      tools.listBeside(`../../${time}`).flatMap((name): FieldFile[] => {
        const path = `../../${time}/${name}`;
        const kind = fieldHead(tools, path);
        if (!kind) return [];
        this.files.push(path);
        const read = once(() => readCaseField(tools.beside(path)!, `${time}/${name}`));
        const unit = (): string | null => read().unit;
        return [
          {
            name,
            header: {
              ...fieldClasses[kind],
              get unit() {
                return unit();
              },
            },
            read,
          },
        ];
      }),
    );
  }

  at(step: number): FieldFile[] {
    return this.steps[step] ?? [];
  }
}

function interiorState(mesh: CaseMesh, fields: CaseFields, step: number): OpenedMesh {
  const files = fields.at(step);
  return {
    get points() {
      return mesh.points().length / 3;
    },
    get cells() {
      return mesh.cellCount();
    },
    fields: files.map((f) => ({ name: f.name, ...f.header })),
    meshKey: 'interior',
    readMesh: mesh.interior,
    readField(index) {
      const { internal, uniform, components } = files[index].read();
      const count = files[index].header.location === 'cell' ? mesh.cellCount() : mesh.points().length / 3;
      return expanded(internal, uniform, count, components, files[index].name);
    },
  };
}

function patchState(mesh: CaseMesh, patch: Patch, fields: CaseFields, step: number): OpenedMesh {
  const files = fields.at(step).filter((f) => f.header.location === 'cell');
  const findings = new Findings();
  const surface = once(() => mesh.surface(patch, findings));
  return {
    get points() {
      return surface().points.length / 3;
    },
    cells: patch.count,
    fields: files.map((f) => ({ name: f.name, ...f.header })),
    meshKey: patch.name,
    readMesh: surface,
    readField(index) {
      const field = files[index].read();
      const stated = field.patches.get(patch.name);
      if (stated)
        return expanded(stated.values, stated.uniform, patch.count, field.components, files[index].name);
      // Without values of its own a patch takes those of the cells behind it.
      const owner = mesh.owner();
      const out = new Float64Array(patch.count * field.components);
      for (let f = 0; f < patch.count; f++) {
        const cell = field.uniform ? 0 : owner[patch.first + f];
        for (let k = 0; k < field.components; k++)
          out[f * field.components + k] = field.internal[cell * field.components + k];
      }
      return out;
    },
  };
}

function expanded(
  values: NumberArray,
  uniform: boolean,
  count: number,
  components: number,
  name: string,
): NumberArray {
  if (!uniform && values.length === count * components) return values;
  if (!uniform)
    throw new ReadError(
      `${values.length / components} values stand for ${count} cells or faces`,
      `field ${name}`,
      'Write the field again.',
    );
  const out = new Float64Array(count * components);
  for (let i = 0; i < out.length; i++) out[i] = values[i % components];
  return out;
}
