import { expect, it } from 'vitest';
import { processorTime, timeHad } from './processor-time.ts';

it('tells what this process used as the runtime counts it', () => {
  const began = process.cpuUsage();
  const before = processorTime(process.pid)!;
  let sum = 0;
  while (process.cpuUsage(began).user < 300_000) sum += Math.sqrt(sum + 1);
  const { user, system } = process.cpuUsage(began);
  const after = processorTime(process.pid)!;
  // Ticks of ten milliseconds, of user and of system time.
  expect(Math.abs(after.used - before.used - (user + system) / 1000)).toBeLessThan(60);
  expect(after.ready).toBe(true);
});

it('tells nothing of a process that is not there', () => {
  expect(processorTime(2 ** 30)).toBeNull();
});

it('what others had of the machine does not count, but waiting for them does', () => {
  const at = (used: number, ready = true) => ({ used, ready });
  expect(timeHad(250, at(1000), at(1250))).toBe(250);
  expect(timeHad(250, at(1000), at(1020))).toBe(20);
  expect(timeHad(250, at(1000), at(1000, false))).toBe(250);
  // Several threads use more than the time that passes.
  expect(timeHad(250, at(1000), at(1700))).toBe(250);
  expect(timeHad(250, null, at(1000))).toBe(250);
  expect(timeHad(250, at(1000), null)).toBe(250);
});
