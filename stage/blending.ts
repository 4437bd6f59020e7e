import {
  AddEquation,
  CustomBlending,
  MaxEquation,
  NoBlending,
  OneFactor,
  OneMinusDstAlphaFactor,
  OneMinusSrcAlphaFactor,
  type RawShaderMaterial,
  ZeroFactor,
} from 'three';
import { setDefine } from './marks/material.ts';

/** For what fills the screen. */
export function withoutDepth(m: RawShaderMaterial): void {
  m.depthTest = false;
  m.depthWrite = false;
  m.blending = NoBlending;
}

/**
 * Opaque, or see-through in premultiplied colours. The last number of what it is drawn upon is multiplied by what is still to
 * be seen of that; see `outputs`.
 */
export function blend(m: RawShaderMaterial, opacity: number): void {
  const through = opacity < 1;
  m.transparent = through;
  m.depthWrite = !through;
  m.forceSinglePass = true;
  over(m);
}

/**
 * The same of what is drawn layer by layer while it is seen through; see `SeeThrough`.
 *
 * @param bare what its layers are drawn with, unlit
 */
export function blendInLayers(m: RawShaderMaterial, bare: RawShaderMaterial, opacity: number): void {
  blend(m, opacity);
  for (const made of [m, bare]) setDefine(made, 'PEELED', m.transparent);
}

/** Puts it over what is there already. */
export function over(m: RawShaderMaterial): void {
  m.blending = CustomBlending;
  m.blendEquation = AddEquation;
  m.blendSrc = OneFactor;
  m.blendDst = OneMinusSrcAlphaFactor;
  m.blendSrcAlpha = ZeroFactor;
  m.blendDstAlpha = OneMinusSrcAlphaFactor;
}

/** Puts what is seen through under what lies before it; the last number is the share of the pixel that is covered. */
export function layUnder(m: RawShaderMaterial): void {
  over(m);
  m.blendSrc = m.blendSrcAlpha = OneMinusDstAlphaFactor;
  m.blendDst = m.blendDstAlpha = OneFactor;
}

/** Casters keep the greatest of what they write; see `throughTarget`. */
export function keepGreatest(m: RawShaderMaterial): void {
  m.blending = CustomBlending;
  m.blendEquation = MaxEquation;
  m.blendSrc = OneFactor;
  m.blendDst = OneFactor;
}

/** Edges win over the surface they lie on. */
export function offsetSurface(m: RawShaderMaterial, edges: boolean): void {
  m.polygonOffset = edges;
  m.polygonOffsetFactor = 1;
  m.polygonOffsetUnits = 1;
}
