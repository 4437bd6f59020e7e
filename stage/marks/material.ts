import { GLSL3, type IUniform, RawShaderMaterial } from 'three';

export type Uniforms = Record<string, IUniform>;

/** Colours are premultiplied throughout, as averaging asks for. */
export function material(
  vertexShader: string,
  fragmentShader: string,
  uniforms: Uniforms,
): RawShaderMaterial {
  const made = new RawShaderMaterial({ glslVersion: GLSL3, vertexShader, fragmentShader, uniforms });
  made.side = 2;
  made.premultipliedAlpha = true;
  return made;
}
