import { describe, expect, it } from 'vitest';
import { memorySource } from '../bytes/byte-source.ts';
import { readCaseField } from './volume-case-fields.ts';

const field = (kind: string, inner: string, patch: string) =>
  readCaseField(
    memorySource(
      new TextEncoder().encode(
        `Head { version 2.0; format ascii; class ${kind}; object R; }
dimensions [0 2 -2 0 0 0 0];
internalField ${inner};
boundaryField { wall { type fixedValue; value ${patch}; } }`,
      ),
    ),
    'R',
  );

describe('a symmetric tensor of a volume case', () => {
  // Written row by row of the upper half: xx xy xz yy yz zz.
  const read = field(
    'volSymmTensorField',
    'nonuniform List<symmTensor> 2 ((11 12 13 22 23 33) (1 2 3 4 5 6))',
    'uniform (11 12 13 22 23 33)',
  );
  it('has its components in the order of all other formats: xx yy zz xy yz xz', () => {
    expect([...read.internal]).toEqual([11, 22, 33, 12, 23, 13, 1, 4, 6, 2, 5, 3]);
    expect([...read.patches.get('wall')!.values]).toEqual([11, 22, 33, 12, 23, 13]);
    expect(read.components).toBe(6);
  });
  it('leaves vectors as they are', () => {
    const vector = field('volVectorField', 'uniform (1 2 3)', 'uniform (4 5 6)');
    expect([...vector.internal]).toEqual([1, 2, 3]);
    expect(vector.uniform).toBe(true);
  });
});
