import { config, z } from 'zod';

// Schemas are walked, not compiled to code: nothing here makes code out of text, and the page's rules forbid it.
config({ jitless: true });

export { z };
export type SchemaIssue = z.core.$ZodIssue;
