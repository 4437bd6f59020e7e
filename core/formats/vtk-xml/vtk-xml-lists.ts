import { cleanText } from '../../model/clean-text.ts';
import { ReadError } from '../../model/read-error.ts';
import { Findings } from '../door/findings.ts';
import type { CollectionEntry, FileFormat, OpenedCollection } from '../format.ts';
import { walkTags } from '../xml/xml-tags.ts';
import { isVtkXml } from './vtk-xml-structure.ts';

const parallelTypes = ['PUnstructuredGrid', 'PPolyData', 'PImageData', 'PRectilinearGrid', 'PStructuredGrid'];

/** VTK XML parallel files of every kind: they list the partitions of one part. */
export const vtkXmlParallel: FileFormat = {
  id: 'vtk-parallel',
  name: 'VTK XML parallel file',
  extensions: ['.pvtu', '.pvtp', '.pvti', '.pvtr', '.pvts'],
  detect: (head) => isVtkXml(head, parallelTypes),
  open(source, tools): OpenedCollection {
    const findings = new Findings();
    const entries: CollectionEntry[] = [];
    walkTags(
      source,
      {
        open({ name, attributes }) {
          if (name === 'Piece' && attributes.Source) {
            entries.push({ time: null, part: '0', file: attributes.Source, piece: entries.length });
          }
          return undefined;
        },
      },
      tools.find,
    );
    return collection(entries, findings, 'the file lists no partitions');
  },
};

/** VTK XML multi-block file: a tree of named blocks, each a file and a part. */
export const vtkXmlMultiBlock: FileFormat = {
  id: 'vtm',
  name: 'VTK XML multi-block file',
  extensions: ['.vtm', '.vthb', '.vtpc'],
  detect: (head) =>
    isVtkXml(head, ['vtkMultiBlockDataSet', 'vtkPartitionedDataSetCollection', 'vtkPartitionedDataSet']),
  open(source, tools): OpenedCollection {
    const findings = new Findings();
    const entries: CollectionEntry[] = [];
    const path: (string | null)[] = [];
    walkTags(
      source,
      {
        open({ name, attributes }) {
          const label = attributes.name ?? attributes.index ?? '';
          if (name === 'DataSet') {
            if (attributes.file) {
              const part = [...path.filter((p) => p !== null), label].filter((p) => p !== '').join(' / ');
              entries.push({
                time: null,
                part: part || String(entries.length),
                file: attributes.file,
                piece: null,
              });
            }
            path.push(null);
          } else path.push(name === 'Block' || name === 'Partitions' ? label : null);
          return undefined;
        },
        close: () => void path.pop(),
      },
      tools.find,
    );
    return collection(entries, findings, 'the file lists no blocks');
  },
};

/** VTK XML collection: a list of files with the time and the part each belongs to. */
export const vtkXmlCollection: FileFormat = {
  id: 'pvd',
  name: 'VTK XML collection',
  extensions: ['.pvd'],
  detect: (head) => isVtkXml(head, ['Collection']),
  open(source, tools): OpenedCollection {
    const findings = new Findings();
    const entries: CollectionEntry[] = [];
    walkTags(
      source,
      {
        open(tag) {
          if (tag.name !== 'DataSet') return undefined;
          const { timestep, part, name, file } = tag.attributes;
          if (!file) {
            findings.add(`entry ${entries.length + 1} of the collection names no file and is left out`);
            return undefined;
          }
          entries.push({
            time: timeOf(timestep ?? '0', entries.length + 1, findings),
            part: name || part || '0',
            file,
            piece: null,
          });
          return undefined;
        },
      },
      tools.find,
    );
    return collection(entries, findings, 'the collection lists no files');
  },
};

const decoder = new TextDecoder();

/** A series in JSON: `files`, each with `name` and `time`. */
export const seriesJson: FileFormat = {
  id: 'series',
  name: 'series file in JSON',
  extensions: ['.series'],
  detect: (head) =>
    /^\s*\{[\s\S]*"files"\s*:\s*\[/.test(decoder.decode(head)) &&
    /"file-series-version"/.test(decoder.decode(head)),
  open(source): OpenedCollection {
    let files: unknown;
    try {
      files = (JSON.parse(decoder.decode(source.read(0, source.length))) as { files: unknown }).files;
    } catch {
      throw new ReadError(
        'the JSON is damaged',
        'whole file',
        'Correct it, or choose the result files themselves.',
      );
    }
    const entries: CollectionEntry[] = [];
    const findings = new Findings();
    for (const [i, entry] of (Array.isArray(files) ? files : []).entries()) {
      const { name, time } = (entry ?? {}) as { name?: unknown; time?: unknown };
      if (typeof name !== 'string') {
        findings.add(`entry ${i + 1} of the series names no file and is left out`);
        continue;
      }
      entries.push({ time: timeOf(String(time ?? i), i + 1, findings), part: '0', file: name, piece: null });
    }
    return collection(entries, findings, 'the series lists no files');
  },
};

/** The time an entry states; NaN, with a note, for one that is no number. */
function timeOf(text: string, nth: number, findings: Findings): number {
  const time = Number(text);
  if (Number.isFinite(time) && text.trim() !== '') return time;
  findings.add(
    `entry ${nth} states "${cleanText(text, 40)}", which is no time: it got one by its place in the list`,
  );
  return Number.NaN;
}

/** Gives entries without a time one between those before and behind them, or one more of the same interval. */
function placedInTime(entries: CollectionEntry[]): CollectionEntry[] {
  const stated = entries.flatMap((e) => (e.time !== null && !Number.isNaN(e.time) ? [e.time] : []));
  const distinct = [...new Set(stated)].sort((a, b) => a - b);
  const interval =
    distinct.length > 1 ? (distinct[distinct.length - 1] - distinct[0]) / (distinct.length - 1) : 1;
  let before: number | null = null;
  return entries.map((entry, i) => {
    if (entry.time === null || !Number.isNaN(entry.time)) {
      before = entry.time;
      return entry;
    }
    const next =
      entries.slice(i + 1, i + 1000).find((e) => e.time !== null && !Number.isNaN(e.time))?.time ?? null;
    const time: number =
      before === null
        ? next === null
          ? i
          : next - interval
        : next !== null && next > before
          ? (before + next) / 2
          : before + interval;
    before = time;
    return { ...entry, time };
  });
}

function collection(given: CollectionEntry[], findings: Findings, empty: string): OpenedCollection {
  const entries = placedInTime(given);
  if (entries.length === 0) {
    throw new ReadError(empty, 'whole file', 'Choose the result files themselves.');
  }
  return { kind: 'collection', entries, findings };
}
