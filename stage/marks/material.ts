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
  if ('FINISHED' in made.defines === finished) return;
  if (finished) made.defines.FINISHED = '';
  else delete made.defines.FINISHED;
  made.needsUpdate = true;
}
