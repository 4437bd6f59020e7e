import { expect, it } from 'vitest';
import { portableTools } from '../portable-tools.ts';
import { readAsciiNumbers } from './ascii-numbers.ts';
import { decodeBase64, withoutWhiteSpace } from './base64.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (text: string, n: number): number[] => {
  const out = new Float64Array(n);
  readAsciiNumbers(bytes(text), out, 'here');
  return Array.from(out);
};

it('reads every double exactly as the language does', () => {
  // The language's own conversion is correctly rounded (ECMA-262, "StringToNumber").
  let seed = 1;
  const random = (): number => {
    seed = (seed * 48271) % 2147483647;
    return seed / 2147483647;
  };
  const texts = Array.from({ length: 5000 }, (_, i) => {
    const v = (random() - 0.5) * 10 ** Math.floor((random() - 0.5) * 60);
    return i % 3 === 0 ? String(v) : i % 3 === 1 ? v.toExponential(16) : v.toPrecision(6);
  });
  expect(read(texts.join('\n'), texts.length)).toEqual(texts.map(Number));
});

it('knows unusual numbers', () => {
  expect(read(' -0.5 +3 .25 5. 1e3 nan -inf 1E-320 ', 8)).toEqual([
    -0.5,
    3,
    0.25,
    5,
    1000,
    Number.NaN,
    -Infinity,
    1e-320,
  ]);
});

it('wants exactly as many as announced', () => {
  expect(() => read('1 2', 3)).toThrow(/ends after 2/);
  expect(() => read('1 2 3 4', 3)).toThrow(/goes on/);
  expect(() => read('1 2x 3', 3)).toThrow(/not a number/);
});

it('decodes base64 as Node does, and refuses other letters', () => {
  for (let n = 0; n < 40; n++) {
    const data = Uint8Array.from({ length: n }, (_, i) => (i * 37 + n) % 256);
    const text = Buffer.from(data).toString('base64');
    expect(decodeBase64(bytes(text))).toEqual(data);
    expect(
      decodeBase64(
        withoutWhiteSpace(bytes(`\n ${text.slice(0, 8)}\r\n${text.slice(8)} `), portableTools.find),
      ),
    ).toEqual(data);
  }
  expect(() => decodeBase64(bytes('AA*A'))).toThrow(/damaged/);
});
