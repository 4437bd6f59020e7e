import type { RawMesh } from '#core/formats/format.ts';

/** XDMF names of the cells that are written. */
const TOPOLOGIES: Record<number, string> = { 9: 'Quadrilateral', 12: 'Hexahedron' };

interface FieldOnPoints {
  name: string;
  components: 1 | 3;
  data: Float32Array;
}

type Write = (name: string, content: string | Uint8Array) => void;

/** A series in XDMF: meshes once, in one binary file, and the values of each step in one of their own. */
export class XdmfSeries {
  private readonly meshTags = new Map<string, string>();
  private readonly steps: string[] = [];

  /** @param meshes one type of cell each */
  constructor(
    private readonly write: Write,
    meshes: Record<string, RawMesh>,
  ) {
    const heavy = new HeavyData('mesh.bin');
    for (const [name, mesh] of Object.entries(meshes)) {
      const cells = mesh.types.length;
      const size = mesh.connectivity.length / cells;
      const topology = heavy.tag(mesh.connectivity, `${cells} ${size}`);
      const points = heavy.tag(Float32Array.from(mesh.points), `${mesh.points.length / 3} 3`);
      this.meshTags.set(
        name,
        `<Topology TopologyType="${TOPOLOGIES[mesh.types[0]]}" NumberOfElements="${cells}">${topology}</Topology>` +
          `<Geometry GeometryType="XYZ">${points}</Geometry>`,
      );
    }
    write(heavy.name, heavy.bytes());
  }

  /** Writes the values of a moment. */
  step(time: number, fields: Record<string, FieldOnPoints[]>): void {
    const heavy = new HeavyData(`step-${String(this.steps.length + 1).padStart(2, '0')}.bin`);
    const grids = Object.entries(fields).map(([part, own]) => {
      const attributes = own.map(
        ({ name, components, data }) =>
          `<Attribute Name="${name}" Center="Node" AttributeType="${components === 3 ? 'Vector' : 'Scalar'}">${heavy.tag(data, components === 3 ? `${data.length / 3} 3` : `${data.length}`)}</Attribute>`,
      );
      return `<Grid Name="${part}" GridType="Uniform">${this.meshTags.get(part)}${attributes.join('')}</Grid>`;
    });
    this.steps.push(
      `<Grid GridType="Collection" CollectionType="Spatial"><Time Value="${time}"/>${grids.join('')}</Grid>`,
    );
    this.write(heavy.name, heavy.bytes());
  }

  /** The file that names the others. */
  file(): string {
    return `<?xml version="1.0"?>\n<Xdmf Version="3.0"><Domain><Grid GridType="Collection" CollectionType="Temporal">\n${this.steps.join('\n')}\n</Grid></Domain></Xdmf>\n`;
  }
}

class HeavyData {
  private readonly blocks: (Float32Array | Uint32Array)[] = [];
  private at = 0;

  constructor(readonly name: string) {}

  tag(data: Float32Array | Uint32Array, dimensions: string): string {
    const type = data instanceof Float32Array ? 'Float' : 'UInt';
    const from = this.at;
    this.blocks.push(data);
    this.at += data.byteLength;
    return `<DataItem Format="Binary" Endian="Little" NumberType="${type}" Precision="4" Seek="${from}" Dimensions="${dimensions}">${this.name}</DataItem>`;
  }

  bytes(): Uint8Array {
    const out = new Uint8Array(this.at);
    let at = 0;
    for (const b of this.blocks) {
      out.set(new Uint8Array(b.buffer, b.byteOffset, b.byteLength), at);
      at += b.byteLength;
    }
    return out;
  }
}
