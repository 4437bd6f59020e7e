export const screenVertex = /* glsl */ `
precision highp float;
in vec3 position;
out vec2 vPlace;
void main() {
  vPlace = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 1.0, 1.0);
}
`;

/** Running mean of the passes. */
export const averageFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
uniform sampler2D uOld;
uniform float uShare;
uniform sampler2D uNewLight;
uniform sampler2D uOldLight;
uniform sampler2D uNewScene;
uniform sampler2D uOldScene;
in vec2 vPlace;
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outLight;
layout(location = 2) out vec4 outScene;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  outColour = mix(texelFetch(uOld, at, 0), texelFetch(uNew, at, 0), uShare);
  outLight = mix(texelFetch(uOldLight, at, 0), texelFetch(uNewLight, at, 0), uShare);
  outScene = mix(texelFetch(uOldScene, at, 0), texelFetch(uNewScene, at, 0), uShare);
}
`;

/** What is seen through, put together, over what lies behind it. */
export const layersFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
uniform sampler2D uNewLight;
uniform sampler2D uNewScene;
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outLight;
layout(location = 2) out vec4 outScene;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  outColour = texelFetch(uNew, at, 0);
  if (outColour.a == 0.0) discard;
  outLight = texelFetch(uNewLight, at, 0);
  outScene = texelFetch(uNewScene, at, 0);
}
`;

/** From linear, premultiplied light to what a screen or an image file holds. */
export const developFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
/** A draft, behind which there is nothing to be seen. */
uniform bool uSolid;
in vec2 vPlace;
out vec4 outColour;
void main() {
  vec4 c = texelFetch(uNew, ivec2(gl_FragCoord.xy), 0);
  if (uSolid) c.a = 1.0;
  float alpha = clamp(c.a, 0.0, 1.0);
  vec3 colour = alpha > 0.0 ? clamp(c.rgb / alpha, 0.0, 1.0) : vec3(0.0);
  vec3 shown = mix(12.92 * colour, 1.055 * pow(colour, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, colour));
  outColour = vec4(shown * alpha, alpha);
}
`;

/** Of a picture drawn at a smaller size: the pixels of the large one that one of the small one stands for, from where on and how many. */
export const footprint = /* glsl */ `
/** Pixels of the large picture to each of the small one. */
uniform vec2 uScale;
ivec2 footprintFrom() { return ivec2(floor((gl_FragCoord.xy - 0.5) * uScale)); }
ivec2 footprintCount() { return ivec2(ceil(uScale)); }
`;

/** The same at a smaller size: each pixel is the mean of those it stands for. */
export const smallerFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
${footprint}
uniform bool uSolid;
in vec2 vPlace;
out vec4 outColour;
void main() {
  ivec2 size = textureSize(uNew, 0);
  ivec2 from = footprintFrom();
  ivec2 count = footprintCount();
  vec4 sum = vec4(0.0);
  for (int y = 0; y < count.y; y++)
    for (int x = 0; x < count.x; x++)
      sum += texelFetch(uNew, min(from + ivec2(x, y), size - 1), 0);
  outColour = sum / float(count.x * count.y);
  if (uSolid) outColour.a = 1.0;
}
`;

/** A part of a picture in its place in a larger one, with where it lies if that is asked for. */
export const partFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uFirst;
uniform sampler2D uSecond;
uniform sampler2D uThird;
/** Where the picture begins in the larger one, in pixels; and from where to where it is wanted. */
uniform vec2 uFrom;
uniform vec4 uWindow;
layout(location = 0) out vec4 outFirst;
layout(location = 1) out vec4 outSecond;
layout(location = 2) out vec4 outThird;
#ifdef DEEP
uniform sampler2D uDepth;
#endif
void main() {
  ivec2 pixel = ivec2(gl_FragCoord.xy);
  ivec4 window = ivec4(uWindow);
  if (any(lessThan(pixel, window.xy)) || any(greaterThanEqual(pixel, window.zw))) discard;
  ivec2 at = pixel - ivec2(uFrom);
  outFirst = texelFetch(uFirst, at, 0);
  outSecond = texelFetch(uSecond, at, 0);
  outThird = texelFetch(uThird, at, 0);
#ifdef DEEP
  gl_FragDepth = texelFetch(uDepth, at, 0).r;
#endif
}
`;

/** A picture as it is, at the size of the canvas. */
export const copyFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
in vec2 vPlace;
out vec4 outColour;
void main() {
  outColour = texture(uNew, vPlace);
}
`;
