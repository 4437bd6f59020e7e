import { expect, it } from 'vitest';
import { csvCell, csvTable } from './csv-text.ts';

// As section 2 of RFC 4180 has it.
it('cells with commas, quotes and line ends stand in quotes, quotes twice', () => {
  expect(['tin', 'tin, large', 'a "tin"', 'two\nlines'].map(csvCell)).toEqual([
    'tin',
    '"tin, large"',
    '"a ""tin"""',
    '"two\nlines"',
  ]);
});

it('a table has its head and a line for each row', () => {
  expect(
    csvTable(
      ['number', 'body'],
      [
        [1, 'walls, inner'],
        [2, 'tin'],
      ],
    ),
  ).toBe('number,body\n1,"walls, inner"\n2,tin\n');
  expect(csvTable(['number'], [])).toBe('number\n');
});
