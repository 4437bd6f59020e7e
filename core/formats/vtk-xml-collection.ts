import { ReadError } from '../model/read-error.ts';
import { Findings } from './findings.ts';
import type { FileFormat, OpenedCollection } from './format.ts';
import { walkTags } from './xml-tags.ts';

const decoder = new TextDecoder();

/** VTK XML collection: a list of files with the time and the part each belongs to. */
export const vtkXmlCollection: FileFormat = {
  id: 'pvd',
  name: 'VTK XML collection',
  extensions: ['.pvd'],
  detect(head) {
    return /<VTKFile[^>]*type\s*=\s*["']Collection["']/.test(decoder.decode(head.subarray(0, 4096)));
  },
  open(bytes, tools): OpenedCollection {
    const findings = new Findings();
    const entries: OpenedCollection['entries'] = [];
    walkTags(
      bytes,
      {
        open(tag) {
          if (tag.name !== 'DataSet') return undefined;
          const { timestep, part, name, file } = tag.attributes;
          if (!file) {
            findings.add(`entry ${entries.length + 1} of the collection names no file and is left out`);
            return undefined;
          }
          const time = Number(timestep ?? 0);
          if (!Number.isFinite(time)) {
            throw new ReadError(
              `"${timestep}" is not a time`,
              `DataSet ${entries.length + 1}`,
              'Correct the time in the collection file.',
            );
          }
          entries.push({ time, part: name || part || '0', file });
          return undefined;
        },
      },
      tools.find,
    );
    if (entries.length === 0) {
      throw new ReadError(
        'the collection lists no files',
        'Collection',
        'Choose the result files themselves.',
      );
    }
    return { kind: 'collection', entries, findings };
  },
};
