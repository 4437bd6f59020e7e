import { z } from '../model/schema.ts';

/** Patterns that lie within a body as grain lies in wood: no seams, whatever its shape. */
export const textureKinds = [
  'none',
  'brushed',
  'cast',
  'hammered',
  'flakes',
  'speckles',
  'veins',
  'rings',
  'crumb',
  'ripples',
  'weave',
  'patches',
] as const;
export type TextureKind = (typeof textureKinds)[number];

/** What a finish is made of; all of it can be changed. */
export interface FinishValues {
  /** Its own, sRGB; null where it takes that of the line or the part. */
  colour: string | null;
  /** 0 polished .. 1 matte. */
  roughness: number;
  /** 0 no metal, 1 metal: it reflects in its own colour and takes no light in. */
  metal: number;
  /** A clear varnish above it, and how rough that is. */
  coat: number;
  coatRoughness: number;
  /** Light along its edges as fibres or dust give it, and its colour. */
  sheen: number;
  sheenColour: string;
  /** Share of the light that goes through. */
  clear: number;
  /** Refractive index, which also says how much it reflects. */
  index: number;
  /** How much of its colour light takes on its way through. */
  depth: number;
  /** Light of its own, in its colour. */
  glow: number;
  texture: TextureKind;
  /** Of a pattern, in hundredths of the size of the run. */
  grain: number;
  /** How deep the pattern is cut. */
  relief: number;
  /** How much of the second colour the pattern brings, and how much it changes the roughness. */
  contrast: number;
  colour2: string;
  uneven: number;
}

/** Share of a body's light that comes from behind it: what is clear, less what it dyes on its way. */
export const seenThrough = ({ clear, depth }: Pick<FinishValues, 'clear' | 'depth'>): number =>
  clear * (1 - 0.65 * depth * depth);

export type FinishGroup = 'paint' | 'metal' | 'glass and water' | 'mineral' | 'soft' | 'bakery' | 'light';
export const finishGroups: readonly FinishGroup[] = [
  'paint',
  'metal',
  'glass and water',
  'mineral',
  'soft',
  'bakery',
  'light',
];

/** How the surface of a body looks, whatever its colour shows. */
export interface Finish extends FinishValues {
  id: string;
  /** As sentences call it. */
  name: string;
  group: FinishGroup;
}

const plainValues: FinishValues = {
  colour: null,
  roughness: 0.6,
  metal: 0,
  coat: 0,
  coatRoughness: 0.1,
  sheen: 0,
  sheenColour: '#ffffff',
  clear: 0,
  index: 1.5,
  depth: 0.5,
  glow: 0,
  texture: 'none',
  grain: 1,
  relief: 0,
  contrast: 0,
  colour2: '#000000',
  uneven: 0,
};

/** A finish by what is not as usual: a smooth, half matte material that is neither metal nor clear. */
export function finish(
  group: FinishGroup,
  id: string,
  name: string,
  values: Partial<FinishValues> = {},
): Finish {
  return { ...plainValues, ...values, id, name, group };
}

const share = z.number().min(0).max(1);
const hexColour = z.string().regex(/^#[0-9a-f]{6}$/i);

/** Of each value what it may be. */
export const finishValuesSchema = z.object({
  colour: hexColour.nullable(),
  roughness: share,
  metal: share,
  coat: share,
  coatRoughness: share,
  sheen: share,
  sheenColour: hexColour,
  clear: share,
  index: z.number().min(1).max(3),
  depth: share,
  glow: z.number().min(0).max(20),
  texture: z.enum(textureKinds),
  grain: z.number().min(0.01).max(100),
  relief: share,
  contrast: share,
  colour2: hexColour,
  uneven: share,
});
