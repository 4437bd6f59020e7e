import { z } from '../../model/schema.ts';
import type { BlockKind } from './block.ts';
import { chart } from './chart.ts';
import { figure } from './figure.ts';
import { heading } from './heading.ts';
import { numbers } from './numbers.ts';
import { readings } from './readings.ts';
import { runTable } from './run-table.ts';
import { text } from './text.ts';

/** Every kind of block, in the order in which menus offer them. A new one is a file beside this and a line here. */
const kinds = [heading, text, figure, chart, numbers, readings, runTable] as const;

type SchemaOf<K> = K extends BlockKind<infer B> ? B : never;
export type Block = SchemaOf<(typeof kinds)[number]>;

/** Blocks that show something of a source. */
export type SourceBlock = Extract<Block, { source: string }>;

export const blockKinds = kinds as unknown as readonly BlockKind<Block>[];

export const blockSchema = z.discriminatedUnion(
  'kind',
  kinds.map((k) => k.schema) as never,
) as unknown as z.ZodType<Block>;

export const kindOf = ({ kind }: Pick<Block, 'kind'>): BlockKind<Block> =>
  blockKinds.find((k) => k.kind === kind)!;

export const showsSource = (block: Block): block is SourceBlock => 'source' in block;
