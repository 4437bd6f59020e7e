import { describe, expect, it } from 'vitest';
import type { BatchEntry } from '../batch/batch-log.ts';
import { madeRows } from './made-rows.ts';
import { runTable } from './run-table.ts';

const entry = (run: string, more: Partial<BatchEntry> = {}): BatchEntry =>
  ({ run, state: 'made', notes: [], problem: null, ...more }) as BatchEntry;

describe('rows of the runs that files were made of', () => {
  const table = runTable([
    { id: '1', name: 'case 1', parameters: { 'fan [rpm]': 900, door: 'shut, sealed' } },
    { id: '2', name: 'case 2', parameters: { 'fan [rpm]': 1200 } },
  ]);
  it('say what is known of each, what was made, and what did not match', () => {
    const problem = { reason: 'the file is cut off', where: 'step 2', remedy: 'Write it again.' };
    const text = madeRows(table, [
      entry('case 1'),
      entry('case 1', { state: 'current', notes: ['the run has no part "tin"'] }),
      entry('case 1', { notes: ['the run has no part "tin"'] }),
      entry('case 2', { state: 'failed', problem }),
    ]);
    expect(text.split('\n')).toEqual([
      'run,fan [rpm],door,files,failed,what did not match',
      'case 1,900,"shut, sealed",3,0,"the run has no part ""tin"""',
      'case 2,1200,,0,1,the file is cut off',
      '',
    ]);
  });
  it('are there before anything was made', () => {
    expect(madeRows(table, []).split('\n')[2]).toBe('case 2,1200,,0,0,');
  });
});
