import { wholeNumber } from '../model/bounded-number.ts';
import type { DocumentForm } from '../model/document-changes.ts';
import { z } from '../model/schema.ts';
import { type Scene, sceneSchema } from '../scene/document.ts';

/** What goes together in the scenes of all panes, unless a pane goes its own way. */
export const linkNames = ['camera', 'times', 'scales', 'lines', 'looks'] as const;
export type LinkName = (typeof linkNames)[number];

const text = z.string().min(1).max(200);

const scenePane = z.object({
  id: text,
  kind: z.literal('scene'),
  /** What stands above it; null for the name of its run. */
  title: text.nullable(),
  run: text,
  scene: sceneSchema as z.ZodType<Scene>,
  /** In what it goes its own way. */
  free: z.array(z.enum(linkNames)),
});
/** The curves that a chart of the scenes beside it draws, of all of them in one. */
const curvesPane = z.object({ id: text, kind: z.literal('curves'), title: text.nullable(), chart: text });
/** What the gauges of the scenes beside it read, in one table. */
const readingsPane = z.object({ id: text, kind: z.literal('readings'), title: text.nullable() });

/** How the panes are laid out: all of them, or two upon each other. */
export const besideViews = ['panes', 'wipe', 'blink', 'blend', 'difference'] as const;
export type BesideView = (typeof besideViews)[number];

export const MOST_PANES = 9;

/** Scenes, curves and tables that are looked at side by side. */
export const sideBySideSchema = z.object({
  name: text,
  panes: z.array(z.discriminatedUnion('kind', [scenePane, curvesPane, readingsPane])).max(MOST_PANES),
  links: z.record(z.enum(linkNames), z.boolean()),
  show: z.object({
    as: z.enum(besideViews),
    /** The two that lie upon each other, by their ids; null for the first two there are. */
    first: text.nullable(),
    second: text.nullable(),
    /** How much is seen of the first: from the left, or through the second. */
    share: z.number().min(0).max(1),
    /** One legend below all panes, where their scales are shared. */
    legend: z.boolean(),
    /** Panes in a row; null for what fills the screen best. */
    across: wholeNumber().min(1).max(MOST_PANES).nullable(),
    /** Key of the quantity of which the difference is shown; null for what the first is coloured by. */
    quantity: z.string().max(500).nullable(),
  }),
  /** What is meant in runs that lack it by what scenes ask for: keys of fields, names of parts. */
  rules: z.object({ fields: z.record(z.string(), text), parts: z.record(z.string(), text) }),
});

export type SideBySide = z.infer<typeof sideBySideSchema>;
export type Pane = SideBySide['panes'][number];
export type ScenePane = Extract<Pane, { kind: 'scene' }>;

export const emptySideBySide = (name: string): SideBySide => ({
  name,
  panes: [],
  links: { camera: true, times: true, scales: true, lines: true, looks: true },
  show: { as: 'panes', first: null, second: null, share: 0.5, legend: true, across: null, quantity: null },
  rules: { fields: {}, parts: {} },
});

export const sideBySideForm: DocumentForm = {
  keyOfList: (name) => (name === 'panes' ? 'id' : undefined),
  isRecord: (name) => ['links', 'show', 'rules'].includes(name),
};

export const scenePanes = ({ panes }: Pick<SideBySide, 'panes'>): ScenePane[] =>
  panes.filter((p): p is ScenePane => p.kind === 'scene');

/** Whether two panes go together in something. */
export const goTogether = (side: SideBySide, link: LinkName, a: ScenePane, b: ScenePane): boolean =>
  side.links[link] && !a.free.includes(link) && !b.free.includes(link);

/** The two that lie upon each other; null where there are not two. */
export function pairOf(side: SideBySide): [ScenePane, ScenePane] | null {
  const all = scenePanes(side);
  const first = all.find((p) => p.id === side.show.first) ?? all.find((p) => p.id !== side.show.second);
  const second = all.find((p) => p.id === side.show.second && p !== first) ?? all.find((p) => p !== first);
  return first && second ? [first, second] : null;
}

/** How many panes stand in a row, so that each is as large as can be in a picture of that shape. */
export function panesAcross(count: number, aspectOfAll: number, aspectOfPane = 1.5): number {
  let best = { across: 1, width: 0 };
  for (let across = 1; across <= count; across++) {
    const rows = Math.ceil(count / across);
    // Of a whole that is one high: what a pane of its shape gets.
    const width = Math.min(aspectOfAll / across, aspectOfPane / rows);
    if (width > best.width * (1 + 1e-9)) best = { across, width };
  }
  return best.across;
}
