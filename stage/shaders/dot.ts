import { lineFragment } from './line.ts';

/** Bodies with no extent of their own, as round dots of a size in pixels. */
export const dotVertex = /* glsl */ `
precision highp float;
in vec3 position;
in float value;
in float known;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform float uWidth;
out float vValue;
out float vKnown;
void main() {
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vValue = value;
  vKnown = known;
  gl_Position = projectionMatrix * seen;
  gl_PointSize = uWidth * 3.0;
}
`;

export const dotFragment = lineFragment.replace(
  'void main() {',
  'void main() {\n  if (length(gl_PointCoord - 0.5) > 0.5) discard;',
);
