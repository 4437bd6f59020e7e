import { afterEach, expect, it, vi } from 'vitest';
import { askSeen } from './ask-seen.ts';

afterEach(() => vi.unstubAllGlobals());

it('asks for many keys a few at a time, and brings all answers together', async () => {
  const asked: string[][] = [];
  vi.stubGlobal('fetch', async (address: string) => {
    const keys = new URL(address).searchParams.get('keys')!.split(',');
    asked.push(keys);
    return Response.json({
      facts: Object.fromEntries(keys.map((k) => [k, { kind: 'set' }])),
      pictured: { [keys[0]]: 'final' },
      living: [keys[0]],
    });
  });
  const keys = Array.from({ length: 400 }, (_, i) => `key-${i}`);
  const { facts, pictured, living } = await askSeen(keys, 'http://here');
  expect(asked.flat()).toEqual(keys);
  expect(Math.max(...asked.map((a) => a.length))).toBe(150);
  expect(Object.keys(facts)).toEqual(keys);
  expect(Object.keys(pictured)).toEqual(['key-0', 'key-150', 'key-300']);
  expect(living).toEqual(['key-0', 'key-150', 'key-300']);
  expect(await askSeen([])).toEqual({ facts: {}, pictured: {}, living: [] });
});
