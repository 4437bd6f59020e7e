import { outputs } from './colour.ts';

/** A text that lies on the picture where its place is. */
export const textVertex = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
in vec2 corner;
in vec3 first;
in vec3 place;
in vec3 last;
in vec2 along;
in vec2 row;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec2 uPixels;
uniform float uWidth;
uniform float uRows;
uniform float uHalf;
uniform float uLongest;
uniform sampler2D uBefore;
out vec2 vUv;

/** Whether nothing stands before a place, seen with its neighbours: its own surface may slant. */
bool isFree(vec3 at) {
  vec4 seen = projectionMatrix * modelViewMatrix * vec4(at, 1.0);
  vec3 there = 0.5 + 0.5 * seen.xyz / seen.w;
  ivec2 size = textureSize(uBefore, 0);
  ivec2 pixel = ivec2(there.xy * vec2(size));
  if (any(lessThan(pixel, ivec2(0))) || any(greaterThanEqual(pixel, size))) return true;
  float behind = 0.0;
  for (int i = -1; i <= 1; i++)
    for (int j = -1; j <= 1; j++)
      behind = max(behind, texelFetch(uBefore, clamp(pixel + ivec2(i, j), ivec2(0), size - 1), 0).r);
  return there.z < behind + 2e-5;
}

void main() {
  vec4 here = projectionMatrix * modelViewMatrix * vec4(place, 1.0);
  vec2 offset = corner * vec2(row.y * uLongest, 1.0) * uHalf * uWidth;
  here.xy += 2.0 * (offset.x * along + offset.y * vec2(-along.y, along.x)) / uPixels * here.w;
  // As a whole, or not at all.
  gl_Position = isFree(first) && isFree(place) && isFree(last) ? here : vec4(2.0, 2.0, 2.0, 1.0);
  vUv = vec2((corner.x * 0.5 + 0.5) * row.y, (row.x + 0.5 - 0.5 * corner.y) / uRows);
}
`;

export const textFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uText;
uniform int uAway;
uniform float uOpacity;
${outputs}
in vec2 vUv;
void main() {
  if (uAway > 0) discard;
  vec4 seen = texture(uText, vUv);
  if (seen.a < 0.02) discard;
  // Letters are painted for a screen, pictures are made of light.
  vec3 shown = seen.rgb / seen.a;
  vec3 light = mix(shown / 12.92, pow((shown + 0.055) / 1.055, vec3(2.4)), step(0.04045, shown));
  put(vec4(light, 1.0) * seen.a * uOpacity);
}
`;
