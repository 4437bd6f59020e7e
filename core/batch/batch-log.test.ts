import { describe, expect, it } from 'vitest';
import { type BatchEntry, countOfBatch, readBatchLog, writeBatchEntry } from './batch-log.ts';

const entry = (path: string, more: Partial<BatchEntry> = {}): BatchEntry => ({
  batch: 'one',
  path,
  format: 'png',
  shot: 'Front',
  run: 'oven',
  step: 3,
  time: 1.5,
  width: 640,
  height: 480,
  look: null,
  state: 'made',
  bytes: 1200,
  seconds: 2.5,
  notes: [],
  preflight: [],
  problem: null,
  stamp: 'a',
  ...more,
});

describe('the log of batches', () => {
  const [a, b] = [entry('a.png'), entry('oven/b.png', { notes: ['the run has no part "door"'] })];
  it('is read back as it was written, a line for each file', () => {
    const text = [a, b].map(writeBatchEntry).join('');
    expect(text.split('\n')).toHaveLength(3);
    expect([...readBatchLog(text).values()]).toEqual([a, b]);
  });
  it('says of a file what was last written of it', () => {
    const problem = { reason: 'no such step', where: 'the scene', remedy: 'Choose another.' };
    const failed = entry('a.png', { state: 'failed', problem });
    expect(readBatchLog([a, failed, b].map(writeBatchEntry).join('')).get('a.png')).toEqual(failed);
    expect([...readBatchLog([failed, a].map(writeBatchEntry).join(''))]).toEqual([['a.png', a]]);
  });
  it('passes over a line that a crash has cut off, and what is none', () => {
    const whole = writeBatchEntry(a);
    const half = writeBatchEntry(b).slice(0, 40);
    expect([...readBatchLog(`${whole}${half}`).keys()]).toEqual(['a.png']);
    expect([...readBatchLog(`note\n{"path":7}\n[]\n${whole}`).keys()]).toEqual(['a.png']);
  });
  it('counts what became of the files', () => {
    const list = [a, b, entry('c', { state: 'current' }), entry('d', { state: 'failed' })];
    expect(countOfBatch(list)).toEqual({ made: 2, current: 1, failed: 1 });
  });
});
