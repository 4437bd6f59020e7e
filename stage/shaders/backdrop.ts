import { backdropFunction } from './backdrop-colour.ts';
import { outputs } from './colour.ts';

export const backdropFragment = /* glsl */ `
precision highp float;
${backdropFunction}
${outputs}
in vec2 vPlace;
void main() {
  put(vec4(backdropAt(vPlace), 1.0));
}
`;
