import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { PROGRAM_VERSION } from './program-version.ts';

it('is the version that the package says', () => {
  const { version } = JSON.parse(readFileSync('package.json', 'utf8')) as { version: string };
  expect(PROGRAM_VERSION).toBe(version);
});
