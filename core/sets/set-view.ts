import { scalesWish } from '../batch/batch-settings.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';

const text = z.string().max(500);

/** Of a run: a number, words, or nothing. */
export const setValue = z.union([boundedNumber(), text, z.null()]);

/** How the runs of a set are looked at. */
export const setViews = ['table', 'strip', 'matrix', 'response', 'relations'] as const;
export type SetView = (typeof setViews)[number];

/** How a response is shown: in curves, as a fitted surface over two inputs, or by how far runs lie from the fit. */
export const responseViews = ['curves', 'surface', 'residuals'] as const;

/** What of a set is shown, and how. */
const shownSchema = z.object({
  view: z.object({
    sort: z.object({ key: text, down: z.boolean() }).nullable(),
    filters: z.array(
      z.discriminatedUnion('kind', [
        z.object({
          kind: z.literal('between'),
          key: text,
          low: boundedNumber().nullable(),
          high: boundedNumber().nullable(),
        }),
        z.object({ kind: z.literal('among'), key: text, texts: z.array(text) }),
      ]),
    ),
    hidden: z.array(text),
    group: text.nullable(),
  }),
  matrix: z.object({ across: text.nullable(), down: text.nullable(), at: z.record(z.string(), setValue) }),
  /** An output against inputs; null for what is likely, by the keys of columns. */
  response: z.object({
    view: z.enum(responseViews),
    output: text.nullable(),
    across: text.nullable(),
    /** `none` for one curve. */
    group: text.nullable(),
    stepped: text.nullable(),
    at: setValue,
    fit: z
      .object({ kind: z.string().max(60), options: z.record(z.string(), z.union([z.number(), z.boolean()])) })
      .nullable(),
  }),
  /** Pictures of all runs side by side. */
  sheet: z.object({
    /** Id of the shot; null for the first there is. */
    shot: text.nullable(),
    /** Id of the run that a strip shows large; null for the first. */
    run: text.nullable(),
    scales: scalesWish,
    /** Of each picture, in pixels. */
    width: wholeNumber().min(80).max(1920),
    /** Keys of columns that are said below each picture; null for all inputs. */
    labels: z.array(text).max(50).nullable(),
  }),
});

export type ShownOfSet = z.infer<typeof shownSchema>;

export const shownParts = shownSchema.shape;

export const usualShown: ShownOfSet = {
  view: { sort: null, filters: [], hidden: [], group: null },
  matrix: { across: null, down: null, at: {} },
  response: { view: 'curves', output: null, across: null, group: null, stepped: null, at: null, fit: null },
  sheet: { shot: null, run: null, scales: 'shared', width: 480, labels: null },
};

/** A kept state of how a set is looked at. Marks are none of it: they are of runs, and stay with them. */
export const setShotSchema = z.object({
  id: z.string().min(1).max(200),
  name: z.string().min(1).max(200),
  /** How the runs are looked at. */
  kind: z.enum(setViews),
  shown: shownSchema,
  /** The heading it was put under by hand. */
  folder: z.string().min(1).max(200).nullable(),
  tags: z.array(z.string().min(1).max(200)).max(50),
  /** For whoever presents it. */
  notes: z.string().max(20_000),
  /** A small picture as a data address; empty for none. */
  thumbnail: z
    .string()
    .max(60_000)
    .regex(/^(data:image\/(png|jpeg|webp);base64,[\w+/=]*)?$/),
});

export type SetShot = z.infer<typeof setShotSchema>;

/** What is shown of a set, alone. */
export const shownOf = ({ view, matrix, response, sheet }: ShownOfSet): ShownOfSet => ({
  view,
  matrix,
  response,
  sheet,
});

/** The same of what was kept before something was added to it. */
export const shownInFormOfNow = (kept: Partial<ShownOfSet>): ShownOfSet => ({
  view: kept.view ?? usualShown.view,
  matrix: kept.matrix ?? usualShown.matrix,
  response: { ...usualShown.response, ...kept.response },
  sheet: { ...usualShown.sheet, ...kept.sheet },
});
