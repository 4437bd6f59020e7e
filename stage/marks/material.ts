import { GLSL3, type IUniform, NoBlending, RawShaderMaterial } from 'three';

export type Uniforms = Record<string, IUniform>;

/**
 * Colours are premultiplied throughout, as averaging asks for.
 *
 * @param defines for variants of a shader
 */
export function material(
  vertexShader: string,
  fragmentShader: string,
  uniforms: Uniforms,
  defines: Record<string, string> = {},
): RawShaderMaterial {
  const made = new RawShaderMaterial({ glslVersion: GLSL3, vertexShader, fragmentShader, uniforms, defines });
  made.side = 2;
  made.premultipliedAlpha = true;
  return made;
}

/** The variant for opaque things of a pass, which are lit afterwards; see `outputs`. */
export function unlit(vertexShader: string, fragmentShader: string, uniforms: Uniforms): RawShaderMaterial {
  const made = material(vertexShader, fragmentShader, uniforms, { SURFACES: '' });
  made.blending = NoBlending;
  return made;
}

/** Uses the variant of a shader that knows finishes, or the one that does not and is ready sooner. */
export function useFinish(made: RawShaderMaterial, finished: boolean): void {
  setDefine(made, 'FINISHED', finished);
}

/** Uses the variant of a shader that has something defined, or the one that has not. */
export function setDefine(made: RawShaderMaterial, name: string, wanted: boolean): void {
  if (name in made.defines === wanted) return;
  if (wanted) made.defines[name] = '';
  else delete made.defines[name];
  made.needsUpdate = true;
}
