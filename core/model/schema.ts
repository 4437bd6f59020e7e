import { config, z } from 'zod';

/** What is expected, in words for a person. */
const kinds: Record<string, string> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'yes or no',
  array: 'a list',
  tuple: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'nothing',
};

// Schemas are walked, not compiled to code: nothing here makes code out of text, and the page's rules forbid it.
config({
  jitless: true,
  customError: (issue) => {
    if (issue.input === undefined) return 'it is missing';
    if (issue.code === 'invalid_type') return `${kinds[issue.expected] ?? 'something else'} is expected here`;
    if (issue.code === 'invalid_union') return 'it fits none of the forms that are possible here';
    return undefined;
  },
});

export { z };
export type SchemaIssue = z.core.$ZodIssue;
