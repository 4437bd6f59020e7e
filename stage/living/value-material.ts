import { DoubleSide, FrontSide, ShaderMaterial, type Texture } from 'three';
import type { MaterialToWrite, ScaleToWrite } from '#core/formats/surfaces/scene-to-write.ts';

/** How much darker a face is that is seen from its edge than one that is seen from the front. */
const EDGE_ON = 0.72;

const vertex = /* glsl */ `
#ifdef EVEN
attribute float value;
uniform vec2 uFrom;
#else
attribute vec2 place;
#endif
uniform float uDot;
varying float vAlong;
varying vec3 vNormal;
varying vec3 vSeen;
void main() {
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
#ifdef EVEN
  vAlong = (value - uFrom.x) * uFrom.y;
#else
  vAlong = place.x;
#endif
#ifdef SHADED
  vNormal = normalMatrix * normal;
#endif
  vSeen = isOrthographic ? vec3(0.0, 0.0, 1.0) : -seen.xyz;
  gl_PointSize = uDot;
  gl_Position = projectionMatrix * seen;
}`;

const fragment = /* glsl */ `
uniform sampler2D uColours;
uniform vec4 uTo;
uniform float uOpacity;
varying float vAlong;
varying vec3 vNormal;
varying vec3 vSeen;
void main() {
#ifdef EVEN
  float across = clamp(mix(uTo.x, uTo.y, vAlong), uTo.z, uTo.w);
#else
  float across = vAlong;
#endif
  vec3 colour = texture2D(uColours, vec2(across, 0.5)).rgb;
#ifdef SHADED
  colour *= mix(${EDGE_ON}, 1.0, abs(dot(normalize(vNormal), normalize(vSeen))));
#endif
  gl_FragColor = vec4(colour, uOpacity);
}`;

/**
 * A material that shows values in the colours of their scale: exactly those where a face looks at the eye.
 *
 * @param colours of the scale, from low to high
 * @param dots pixels that a point is wide
 */
export function valueMaterial(
  scale: ScaleToWrite,
  { opacity, oneSided }: MaterialToWrite,
  colours: Texture,
  shaded: boolean,
  dots: number,
): ShaderMaterial {
  const { line } = scale;
  return new ShaderMaterial({
    vertexShader: vertex,
    fragmentShader: fragment,
    defines: { ...(line && { EVEN: '' }), ...(shaded && { SHADED: '' }) },
    uniforms: {
      uColours: { value: colours },
      uFrom: { value: line ? [line.low, 1 / (line.high - line.low)] : [0, 1] },
      uTo: { value: line ? [line.atLow, line.atHigh, line.least, line.most] : [0, 1, 0, 1] },
      uOpacity: { value: opacity },
      uDot: { value: dots },
    },
    transparent: opacity < 1,
    depthWrite: opacity === 1,
    side: oneSided ? FrontSide : DoubleSide,
    // Its lines lie before it.
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  });
}
