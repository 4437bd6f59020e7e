import { type FinishOf, finishSchema } from '../../light/own-finish.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { inFormOfNow, versionOf } from '../../model/versioned.ts';
import { colourSchema } from '../things/colour-code.ts';
import { type AnySceneThing, type SceneThings, sceneThings } from '../things/registry.ts';

/** How bodies look that show no values: nothing said of something leaves it as it is. */
export interface Dress {
  finish?: FinishOf;
  colour?: string;
  opacity?: number;
}

/** The style of a scene without its data: it may be put on in any other. */
export interface Look {
  name: string;
  /** What it is good for. */
  purpose: string;
  /** What the scene has one of, as far as it belongs to the style, by their ids; see `Style`. */
  things: { [Id in keyof SceneThings]?: Partial<SceneThings[Id]> };
  /** Of lines in one colour: those that hide what is behind them, housings that are seen from inside, and those that are seen through. */
  solid: Dress | null;
  housing: Dress | null;
  /** Of what is drawn as lines: wires, edges, streamlines. */
  thin: Dress | null;
  seenThrough: Dress | null;
  /** Of lines that show values, whose colours stay as they are. */
  values: Pick<Dress, 'finish'> | null;
  /** Of single lines, by the parts they show, all of them where there are none; and of parts by name. */
  lines: { parts: string[] | null; dress: Dress }[];
  parts: Record<string, Dress>;
}

const dressSchema = z.object({
  finish: finishSchema.optional(),
  colour: colourSchema.optional(),
  opacity: boundedNumber().min(0).max(1).optional(),
});

/** A look as it is kept, with the forms its things are written in. */
export const keptLookSchema = z.object({
  name: z.string().min(1).max(100),
  purpose: z.string().max(300),
  things: z.record(z.string(), z.record(z.string(), z.unknown())),
  solid: dressSchema.nullable(),
  housing: dressSchema.nullable(),
  thin: dressSchema.nullable(),
  seenThrough: dressSchema.nullable(),
  values: dressSchema.pick({ finish: true }).nullable(),
  lines: z.array(z.object({ parts: z.array(z.string()).nullable(), dress: dressSchema })).max(500),
  parts: z.record(z.string(), dressSchema),
  /** Forms its things were written in, by their ids; absent for the first. */
  forms: z.record(z.string(), wholeNumber().min(1)).optional(),
});

type StyledThing = AnySceneThing & Required<Pick<AnySceneThing, 'style'>>;

/** What a scene has one of that belongs to its style. */
export const styledThings: readonly StyledThing[] = sceneThings.filter((t): t is StyledThing =>
  Boolean(t.style),
);

/** A look as it is kept now. */
export function writtenLook(look: Look): z.infer<typeof keptLookSchema> {
  const forms = styledThings.filter((t) => look.things[t.id] && versionOf(t) > 1);
  return {
    ...look,
    things: { ...look.things } as Record<string, Record<string, unknown>>,
    forms: Object.fromEntries(forms.map((t) => [t.id, versionOf(t)])),
  };
}

/**
 * A look that was kept, also by an earlier version. What does not fit any more is left out.
 *
 * @throws Error when it is no look at all
 */
export function readLook(document: unknown): { look: Look; leftOut: string[] } {
  const read = keptLookSchema.safeParse(document);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new Error(`The look is damaged at "${issue.path.join(' / ')}": ${issue.message}. Save it anew.`);
  }
  const { forms = {}, things: written, ...rest } = read.data;
  const things: Record<string, object> = {};
  const leftOut: string[] = [];
  for (const [id, value] of Object.entries(written)) {
    const thing = styledThings.find((t) => t.id === id);
    const now = thing && inFormOfNow(value, forms[id] ?? 1, thing);
    if (thing && thing.schema.safeParse({ ...thing.plain, ...now }).success) things[id] = now!;
    else leftOut.push(thing ? `${thing.name} is damaged` : `this version has no "${id}"`);
  }
  return { look: { ...rest, things: things as Look['things'] }, leftOut };
}
