import {
  AddEquation,
  CustomBlending,
  MaxEquation,
  NoBlending,
  OneFactor,
  OneMinusSrcAlphaFactor,
  type RawShaderMaterial,
  ZeroFactor,
} from 'three';

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
  m.forceSinglePass = !through;
  m.blending = CustomBlending;
  m.blendEquation = AddEquation;
  m.blendSrc = OneFactor;
  m.blendDst = OneMinusSrcAlphaFactor;
  m.blendSrcAlpha = ZeroFactor;
  m.blendDstAlpha = OneMinusSrcAlphaFactor;
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
