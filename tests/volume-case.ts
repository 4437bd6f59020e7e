import type { RawMesh } from '#core/formats/format.ts';
import { cellTypes } from '#core/model/cell-types.ts';

/** The header of a file of a finite-volume case; the word before the brace does not matter to readers. */
const header = (kind: string, object: string, binary: boolean): string =>
  `/* made for a test */\nHeader\n{\n    version 2.0;\n    format ${binary ? 'binary' : 'ascii'};\n` +
  `${binary ? '    arch "LSB;label=32;scalar=64";\n' : ''}    class ${kind};\n    location "x";\n    object ${object};\n}\n// * * *\n`;

const bytes = (...parts: (string | ArrayBufferView)[]): Uint8Array =>
  new Uint8Array(
    Buffer.concat(
      parts.map((p) =>
        typeof p === 'string' ? Buffer.from(p) : Buffer.from(p.buffer, p.byteOffset, p.byteLength),
      ),
    ),
  );

export interface CaseFields {
  /** By time and field name: a value for each cell, three for vectors; patches by name. */
  [time: string]: Record<
    string,
    { dimensions: string; cells: number[]; vector?: boolean; patches?: Record<string, string> }
  >;
}

/** The files of a finite-volume case of a mesh of volume cells, ascii or binary; one patch called `walls`. */
export function buildVolumeCase(
  mesh: RawMesh,
  fields: CaseFields,
  binary: boolean,
): Record<string, Uint8Array> {
  const faces = new Map<string, { nodes: number[]; owner: number; neighbour: number | null }>();
  for (let c = 0; c < mesh.types.length; c++) {
    for (const loop of cellTypes.get(mesh.types[c])!.faces) {
      const nodes = loop.map((k) => mesh.connectivity[mesh.offsets[c] + k]);
      const key = [...nodes].sort((a, b) => a - b).join();
      const known = faces.get(key);
      if (known) known.neighbour = c;
      else faces.set(key, { nodes, owner: c, neighbour: null });
    }
  }
  const inner = [...faces.values()].filter((f) => f.neighbour !== null);
  const outer = [...faces.values()].filter((f) => f.neighbour === null);
  const all = [...inner, ...outer];
  const labels = (list: number[]): Uint8Array =>
    binary
      ? bytes(`${list.length}\n(`, Int32Array.from(list), ')\n')
      : bytes(`${list.length}\n(\n${list.join('\n')}\n)\n`);
  const starts = [0];
  for (const f of all) starts.push(starts[starts.length - 1] + f.nodes.length);
  const faceList = binary
    ? bytes(labels(starts), labels(all.flatMap((f) => f.nodes)))
    : bytes(`${all.length}\n(\n${all.map((f) => `${f.nodes.length}(${f.nodes.join(' ')})`).join('\n')}\n)\n`);
  const n = mesh.points.length / 3;
  const triples = (v: ArrayLike<number>): string =>
    Array.from({ length: v.length / 3 }, (_, i) => `(${v[3 * i]} ${v[3 * i + 1]} ${v[3 * i + 2]})`).join(
      '\n',
    );
  const out: Record<string, Uint8Array> = {
    'constant/polyMesh/points': binary
      ? bytes(header('vectorField', 'points', true), `${n}\n(`, Float64Array.from(mesh.points), ')\n')
      : bytes(header('vectorField', 'points', false), `${n}\n(\n${triples(mesh.points)}\n)\n`),
    'constant/polyMesh/faces': bytes(
      header(binary ? 'faceCompactList' : 'faceList', 'faces', binary),
      faceList,
    ),
    'constant/polyMesh/owner': bytes(header('labelList', 'owner', binary), labels(all.map((f) => f.owner))),
    'constant/polyMesh/neighbour': bytes(
      header('labelList', 'neighbour', binary),
      labels(inner.map((f) => f.neighbour!)),
    ),
    'constant/polyMesh/boundary': bytes(
      header('polyBoundaryMesh', 'boundary', false),
      `1\n(\n    walls\n    {\n        type wall;\n        inGroups List<word> 1(wall);\n        nFaces ${outer.length};\n        startFace ${inner.length};\n    }\n)\n`,
    ),
    'system/controlDict': bytes(header('dictionary', 'controlDict', false), 'endTime 1;\n'),
  };
  for (const [time, list] of Object.entries(fields)) {
    for (const [name, f] of Object.entries(list)) {
      const kind = f.vector ? 'vector' : 'scalar';
      const count = f.cells.length / (f.vector ? 3 : 1);
      const values = binary
        ? bytes(`nonuniform List<${kind}> ${count}\n(`, Float64Array.from(f.cells), ');\n')
        : bytes(
            `nonuniform List<${kind}>\n${count}\n(\n${f.vector ? triples(f.cells) : f.cells.join('\n')}\n)\n;\n`,
          );
      const patches = Object.entries(f.patches ?? {}).map(
        ([p, v]) => `    ${p}\n    {\n        type fixedValue;\n        value ${v};\n    }\n`,
      );
      out[`${time}/${name}`] = bytes(
        header(f.vector ? 'volVectorField' : 'volScalarField', name, binary),
        `dimensions ${f.dimensions};\n\ninternalField `,
        values,
        `\nboundaryField\n{\n${patches.join('')}}\n`,
      );
    }
  }
  return out;
}
