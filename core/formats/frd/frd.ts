import { byName } from '../../model/by-name.ts';
import type { FieldHeader } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { eachLine } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { once, openedRun } from '../door/opened-run.ts';
import type { CellGroup, FileFormat, OpenedMesh, StepName } from '../format.ts';

const decoder = new TextDecoder();

/** Element types of the format: cell type, nodes, and the order where it differs (public description, from memory). */
const elements: Record<number, { type: number; nodes: number; order?: number[] }> = {
  1: { type: 12, nodes: 8 },
  2: { type: 13, nodes: 6 },
  3: { type: 10, nodes: 4 },
  4: {
    type: 25,
    nodes: 20,
    order: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 16, 17, 18, 19, 12, 13, 14, 15],
  },
  5: { type: 26, nodes: 15, order: [0, 1, 2, 3, 4, 5, 6, 7, 8, 12, 13, 14, 9, 10, 11] },
  6: { type: 24, nodes: 10 },
  7: { type: 5, nodes: 3 },
  8: { type: 22, nodes: 6 },
  9: { type: 9, nodes: 4 },
  10: { type: 23, nodes: 8 },
  11: { type: 3, nodes: 2 },
  12: { type: 21, nodes: 3 },
};

const fieldNames: Record<string, string> = byName({
  DISP: 'displacement',
  STRESS: 'stress',
  TOSTRAIN: 'strain',
  STRAIN: 'strain',
  NDTEMP: 'temperature',
  FORC: 'reaction force',
  FLUX: 'heat flux',
  PE: 'equivalent plastic strain',
});

interface Block {
  step: number;
  field: string;
  components: number;
  nodes: number[];
  values: number[];
  /** Whether the line that ends it was there: only then is its last number whole. */
  ended: boolean;
}

interface Content {
  nodeTags: number[];
  coordinates: number[];
  cells: { tag: number; type: number; material: number; nodes: number[] }[];
  steps: { key: string; value: number; name: StepName }[];
  blocks: Block[];
}

/** Ascii results of open structural solvers in the `.frd` layout: nodes, elements, and fields for each step or mode. */
export const frd: FileFormat = {
  id: 'frd',
  name: 'structural results in the .frd layout',
  extensions: ['.frd'],
  manySteps: true,
  detect: (head) =>
    /^ {4}1C/.test(decoder.decode(head.subarray(0, 16))) && /\n {4}[12][CU]/.test(decoder.decode(head)),
  open(source) {
    const findings = new Findings();
    const content = readContent((line) => eachLine(source, 0, line), findings, source.length);
    const mesh = once(() => buildMesh(content, findings));
    const state = (step: number): OpenedMesh => {
      const blocks = content.blocks.filter((b) => b.step === step || b.step < 0);
      return {
        points: content.nodeTags.length,
        cells: content.cells.length,
        fields: blocks.map(
          (b): FieldHeader => ({ name: b.field, location: 'point', components: b.components, unit: null }),
        ),
        meshKey: 'mesh',
        readMesh: () => mesh().mesh,
        readField: (index) => spread(blocks[index], content.nodeTags.length, mesh().place),
        readGroups: () => materials(content),
      };
    };
    const steps = content.steps.length > 0 ? content.steps.map((s) => s.value) : [null];
    const stepNames = content.steps.length > 0 ? content.steps.map((s) => s.name) : undefined;
    return openedRun([{ name: null, kind: 'mesh', at: state }], { steps, stepNames, findings });
  },
};

function readContent(
  walk: (line: (bytes: Uint8Array, at: number) => boolean | undefined) => void,
  findings: Findings,
  fileBytes: number,
): Content {
  const out: Content = { nodeTags: [], coordinates: [], cells: [], steps: [], blocks: [] };
  const stepKeys = new Set<string>();
  let section: 'none' | 'nodes' | 'elements' | 'results' = 'none';
  let idWidth = 10;
  let block: Block | null = null;
  let present: number[] = [];
  const announced = { nodes: 0, elements: 0 };
  let closed = false;
  /** Of the blocks that follow, when they are mode shapes. */
  let mode: number | null = null;
  const number = (text: string, at: number): number => {
    const value = Number(text.replace(/\s+/g, ''));
    if (text.trim() !== '' && !Number.isNaN(value)) return value;
    if (/nan/i.test(text)) return Number.NaN;
    throw new CutOffError(`"${text.trim()}" is not a number`, `byte ${at}`);
  };
  const readLine = (bytes: Uint8Array, at: number): boolean | undefined => {
    const line = decoder.decode(bytes);
    if (/^ {4}1PMODE/.test(line)) mode = Number(line.slice(10).trim()) || null;
    else if (/^ {4}1PSTEP/.test(line)) mode = null;
    const key = line.slice(0, 5).trim();
    if (/^ {3,4}[123]C/.test(line) || /^ {2}100C/.test(line)) {
      const format = Number(line.slice(73, 75).trim() || 1);
      if (format > 1)
        throw new ReadError(
          'binary files of this layout are not read',
          `byte ${at}`,
          'Write the results as ascii.',
        );
      idWidth = format === 0 ? 5 : 10;
      section = /^ +2C/.test(line)
        ? 'nodes'
        : /^ +3C/.test(line)
          ? 'elements'
          : /100C/.test(line)
            ? 'results'
            : 'none';
      if (section === 'nodes' || section === 'elements') {
        const wanted = Number(line.slice(6, 36).trim().split(/\s+/)[0]);
        announced[section] += wanted || 0;
        if (wanted > fileBytes)
          throw new ReadError(`a count of ${wanted} does not fit the file`, `byte ${at}`, 'Write it again.');
      }
      if (section === 'results') {
        const value = number(line.slice(12, 24), at);
        const step = line.slice(58, 63).trim() || String(out.steps.length);
        const known = `${step}|${value}`;
        if (!stepKeys.has(known)) out.steps.push({ key: known, value, name: nameOfStep(line, mode) });
        stepKeys.add(known);
        block = null;
      }
      return undefined;
    }
    if (key === '9999') {
      closed = true;
      return false;
    }
    if (section === 'nodes' && key === '-1') {
      out.nodeTags.push(number(line.slice(3, 3 + idWidth), at));
      for (let k = 0; k < 3; k++)
        out.coordinates.push(number(line.slice(3 + idWidth + 12 * k, 15 + idWidth + 12 * k), at));
    } else if (section === 'elements' && key === '-1') {
      const tag = number(line.slice(3, 3 + idWidth), at);
      const rest = line.slice(3 + idWidth);
      out.cells.push({
        tag,
        type: number(rest.slice(0, 5), at),
        material: Number(rest.slice(10, 15)) || 0,
        nodes: [],
      });
    } else if (section === 'elements' && key === '-2') {
      const cell = out.cells[out.cells.length - 1];
      for (let c = 3; c + 1 < line.length; c += idWidth) {
        const text = line.slice(c, c + idWidth);
        if (text.trim() !== '') cell?.nodes.push(number(text, at));
      }
    } else if (section === 'results' && key === '-4') {
      const name = line.slice(5, 13).trim();
      block = {
        step: out.steps.length - 1,
        field: fieldNames[name] ?? name,
        components: 0,
        nodes: [],
        values: [],
        ended: false,
      };
      present = [];
      out.blocks.push(block);
    } else if (section === 'results' && key === '-5' && block) {
      // A component that exists only by later computation has no numbers in the file.
      if (Number(line.slice(33, 38).trim() || 0) === 0) present.push(present.length);
      block.components = present.length;
    } else if (section === 'results' && key === '-1' && block) {
      block.nodes.push(number(line.slice(3, 3 + idWidth), at));
      readValues(line, 3 + idWidth, block, at, number);
    } else if (section === 'results' && key === '-2' && block)
      readValues(line, 3 + idWidth, block, at, number);
    else if (key === '-3') {
      if (block) block.ended = true;
      if (section !== 'results') section = 'none';
    }
    return undefined;
  };
  try {
    walk(readLine);
  } catch (error) {
    // The mesh stands before the results: it is whole when one of them was begun.
    if (!(error instanceof CutOffError) || out.steps.length === 0) throw error;
    findings.add(`the file is cut off (${error.where}: ${error.reason}): only what stands before is shown`);
  }
  if (out.nodeTags.length === 0) throw new CutOffError('the file holds no nodes', '2C block');
  for (const [what, there] of [
    ['nodes', out.nodeTags.length],
    ['elements', out.cells.length],
  ] as const)
    if (there < announced[what])
      throw new CutOffError(
        `${announced[what]} ${what} are announced but ${there} are there`,
        `${what} block`,
      );
  if (!closed && out.steps.length === 0)
    throw new CutOffError('the file ends before its elements do', 'elements block');
  if (!closed && findings.list.length === 0)
    findings.add('the file does not end as it should: only what stands before is shown');
  const whole = (b: Block): boolean => b.ended && b.values.length === b.nodes.length * b.components;
  for (const b of out.blocks) if (!whole(b)) findings.add(`${b.field} is cut off and is left out`);
  out.blocks = out.blocks.filter((b) => b.components > 0 && whole(b));
  // A last step that has nothing left would be an empty one.
  while (out.steps.length > 1 && !out.blocks.some((b) => b.step === out.steps.length - 1)) out.steps.pop();
  return out;
}

/** Kinds of analysis of the format: static, in time, frequency, load step (public description, from memory). */
const analyses: Record<string, StepName['kind']> = byName({
  '0': 'load case',
  '1': 'time',
  '2': 'mode',
  '3': 'load case',
});

function nameOfStep(line: string, mode: number | null): StepName {
  if (mode !== null) return { kind: 'mode', number: mode };
  return { kind: analyses[line.slice(56, 58).trim()] ?? 'time', number: null };
}

function readValues(
  line: string,
  from: number,
  block: Block,
  at: number,
  number: (text: string, at: number) => number,
): void {
  const due = block.nodes.length * block.components - block.values.length;
  for (let k = 0; k < Math.min(6, due); k++) {
    const text = line.slice(from + 12 * k, from + 12 * k + 12);
    if (text.trim() === '') break;
    block.values.push(number(text, at));
  }
}

function buildMesh(content: Content, findings: Findings) {
  const place = new Map<number, number>();
  for (const [i, tag] of content.nodeTags.entries()) place.set(tag, i);
  const known = content.cells.filter((c) => elements[c.type]);
  if (known.length < content.cells.length)
    findings.add(`${content.cells.length - known.length} elements of unknown types are left out`);
  const types = new Uint8Array(known.length);
  const offsets = new Uint32Array(known.length + 1);
  const connectivity: number[] = [];
  for (const [c, cell] of known.entries()) {
    const { type, nodes, order } = elements[cell.type];
    if (cell.nodes.length < nodes)
      throw new ReadError(
        `element ${cell.tag} has ${cell.nodes.length} nodes, not ${nodes}`,
        '3C block',
        'Write the file again.',
      );
    for (let k = 0; k < nodes; k++) {
      const index = place.get(cell.nodes[order ? order[k] : k]);
      if (index === undefined)
        throw new ReadError(
          `element ${cell.tag} uses a node that is not there`,
          '3C block',
          'Write the file again.',
        );
      connectivity.push(index);
    }
    types[c] = type;
    offsets[c + 1] = connectivity.length;
  }
  const mesh = admitMesh(
    {
      points: Float64Array.from(content.coordinates),
      types,
      offsets,
      connectivity: Uint32Array.from(connectivity),
    },
    findings,
  );
  return { mesh, place };
}

function spread(block: Block, points: number, place: Map<number, number>): Float64Array {
  const out = new Float64Array(points * block.components).fill(Number.NaN);
  for (const [i, tag] of block.nodes.entries()) {
    const p = place.get(tag);
    if (p === undefined) continue;
    for (let k = 0; k < block.components; k++)
      out[p * block.components + k] = block.values[i * block.components + k];
  }
  return out;
}

function materials(content: Content): CellGroup[] {
  const known = content.cells.filter((c) => elements[c.type]);
  const numbers = [...new Set(known.map((c) => c.material))].sort((a, b) => a - b);
  if (numbers.length < 2) return [];
  return numbers.map((m) => ({
    name: `material ${m}`,
    cells: Uint32Array.from(known.flatMap((c, i) => (c.material === m ? [i] : []))),
  }));
}
