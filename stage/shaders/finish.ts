import { eye } from './eye.ts';
import { patterns } from './patterns.ts';
import { toneFunction } from './tone.ts';

/** Added to the number of a finish where its colour is that of a value. */
export const COLOURED = 512;

/** The formulas of `microfacets.ts` in the core, in the words of the card. */
const facets = /* glsl */ `
float facetsTowards(float nh, float alpha) {
  float a2 = alpha * alpha;
  float d = nh * nh * (a2 - 1.0) + 1.0;
  return a2 / (3.14159265 * d * d);
}
float facetsSeen(float nl, float nv, float alpha) {
  float a2 = alpha * alpha;
  float l = nv * sqrt(nl * nl * (1.0 - a2) + a2);
  float v = nl * sqrt(nv * nv * (1.0 - a2) + a2);
  return 0.5 / max(l + v, 1e-6);
}
float fibresTowards(float nh, float roughness) {
  float inverse = 1.0 / max(roughness, 0.05);
  return (2.0 + inverse) * pow(max(0.0, 1.0 - nh * nh), 0.5 * inverse) / 6.2831853;
}
float fibresSeen(float nl, float nv) {
  return 1.0 / (4.0 * max(nl + nv - nl * nv, 1e-3));
}
`;

/** What a surface of a finish sends towards whoever looks. Needs `shadowLookup` before it. */
export const finishing = /* glsl */ `
${patterns}
${facets}
${toneFunction}
${eye}
uniform sampler2D uFinishes;
/** See 'reflectanceTable'. */
uniform sampler2D uReflectance;
uniform float uExposure;
uniform bool uHighlights;
/** Length of a hundredth of the size of the run, in its unit. */
uniform float uGrainUnit;
/** Width of a pixel: at no distance, and what is added for each unit of it. */
uniform vec2 uPixelSpan;
/** Half the angle that the face of a lamp is wide in one pass, as a sine. */
uniform float uLampRadius;

struct Finish {
  float roughness;
  float metal;
  float coat;
  float coatRoughness;
  vec3 sheen;
  /** Reflected straight on by what is no metal. */
  float straight;
  float glow;
  float clear;
  int pattern;
  float grain;
  float relief;
  float contrast;
  float uneven;
  vec3 second;
};

Finish finishAt(int slot) {
  vec4 a = texelFetch(uFinishes, ivec2(0, slot), 0);
  vec4 b = texelFetch(uFinishes, ivec2(1, slot), 0);
  vec4 c = texelFetch(uFinishes, ivec2(2, slot), 0);
  vec4 d = texelFetch(uFinishes, ivec2(3, slot), 0);
  vec4 e = texelFetch(uFinishes, ivec2(4, slot), 0);
  return Finish(a.x, a.y, a.z, a.w, b.rgb, b.a, c.x, c.y, int(c.z + 0.5), c.w, d.x, d.y, d.z, e.rgb);
}

/** A surface in its finish: what that is made of there, its colour, and the normal with what is cut into it. */
struct Worn {
  Finish finish;
  vec3 colour;
  vec3 normal;
};

/** @param coloured whether the colour stands for a value: then its hue and chroma stay */
Worn wornAt(int row, bool coloured, vec3 colour, vec3 normal, vec3 place) {
  Finish f = finishAt(row);
  // A loop that runs once or not at all is passed over where a processor draws; branches are not.
  for (int once = 0; once < (f.pattern > 0 ? 1 : 0); once++) {
    vec3 side = normalize(cross(abs(uUp.x) < 0.7 ? vec3(1, 0, 0) : vec3(0, 1, 0), uUp));
    mat3 upright = transpose(mat3(side, cross(uUp, side), uUp));
    float size = f.grain * uGrainUnit;
    vec3 p = upright * place / size;
    vec3 n = upright * normal;
    float pixel = (uPixelSpan.x + uPixelSpan.y * (uParallel ? 0.0 : distance(uEye, place))) / size;
    // What is finer than pixels is not drawn but in the mean.
    float fine = 1.0 - smoothstep(0.35, 1.2, pixel);
    vec4 found = fine > 0.0 ? patternAt(f.pattern, p, n) : vec4(0.5, 0.0, 0.0, 0.0);
    vec3 slope = found.yzw - n * dot(found.yzw, n);
    normal = normalize(transpose(upright) * normalize(n - f.relief * fine * 0.8 * slope));
    float shown = mix(0.5, clamp(found.x, 0.0, 1.0), fine);
    f.roughness = clamp(f.roughness + f.uneven * (shown - 0.5), 0.03, 1.0);
    colour = coloured ? colour * (1.0 - 0.35 * f.contrast * shown) : mix(colour, f.second, f.contrast * shown);
  }
  return Worn(f, colour, normal);
}

/**
 * What a surface sends towards whoever looks.
 *
 * @param matte light on a matte white surface there; see 'matteLight'
 * @param shares brightness with shadows, without, and with the whole sky
 * @param hides share of what is behind it that is hidden by what it reflects
 * @returns light as it meets a camera; of values, as it is shown
 */
vec3 sentBy(Worn worn, bool coloured, Arriving a, mat3 matte, vec3 toEye, out vec3 shares, out float hides) {
  Finish f = worn.finish;
  vec3 normal = worn.normal;
  float nv = max(dot(normal, toEye), 0.02);
  vec3 away = reflect(-toEye, normal);
  float whole = max(brightness(a.skyWhole), 1e-4);
  vec2 open = vec2(brightness(a.sky), brightness(a.skyFree)) / whole;
  vec3 under = vec3(1.0);
  hides = 0.0;
  // Of what is under the varnish, and of the varnish: with shadows, without, and with the whole sky.
  mat3 gloss = mat3(0.0);
  mat3 varnish = gloss;
  // First the varnish, where there is one, then what it lies upon.
  for (int layer = f.coat > 0.0 ? 0 : 1; layer < 2; layer++) {
    bool isCoat = layer == 0;
    float roughness = isCoat ? f.coatRoughness : f.roughness;
    // Metal in the colour of a value mirrors as if it were white, and is dyed after that.
    vec3 straight = isCoat ? vec3(0.04) : mix(vec3(f.straight), coloured ? vec3(1.0) : worn.colour, f.metal);
    vec3 table = texture(uReflectance, vec2(nv, roughness)).xyz;
    vec3 dim = isCoat ? vec3(f.coat) : under;
    vec3 fibres = isCoat ? vec3(0.0) : f.sheen;
    // What single facets lose to others comes out after some turns (Turquin 2019).
    vec3 gain = 1.0 + straight * (1.0 / max(table.x + table.y, 0.05) - 1.0);
    vec3 share = min(vec3(1.0), (straight * table.x + table.y) * gain);
    vec3 sky = uSkyStrength * dim * share * mirrorSky(away, roughness);
    vec3 soft = uSkyStrength * dim * fibres * min(table.z, 1.0);
    mat3 sum = mat3(sky * open.x + soft * a.sky, sky * open.y + soft * a.skyFree, sky + soft * a.skyWhole);
    for (int i = 0; i < uLampCount; i++) {
      vec3 to = uLights[i].xyz;
      float nl = dot(normal, to);
      if (nl <= 0.0) continue;
      vec3 middle = normalize(to + toEye);
      float nh = max(dot(normal, middle), 0.0);
      // A lamp of some size widens what mirrors it.
      float alpha = clamp(roughness * roughness + 0.5 * uLampRadius, 2e-3, 1.0);
      vec3 facet = straight + (1.0 - straight) * pow(1.0 - max(dot(toEye, middle), 0.0), 5.0);
      vec3 lobes = facetsTowards(nh, alpha) * facetsSeen(nl, nv, alpha) * facet * gain
        + fibres * fibresTowards(nh, roughness) * fibresSeen(nl, nv);
      vec3 sent = 3.14159265 * nl * uLights[i].w * uKeyStrength * dim * lobes * uLampColours[i];
      sum += outerProduct(sent, vec3(i == 0 ? a.seen : 1.0, 1.0, 1.0));
    }
    if (isCoat) varnish = sum;
    else gloss = sum;
    float most = max(fibres.r, max(fibres.g, fibres.b));
    // Metal takes in none of what it does not reflect.
    vec3 mirrored = isCoat ? f.coat * share : mix(min(vec3(1.0), f.straight * table.x + table.y), vec3(1.0), f.metal);
    under *= (1.0 - mirrored) * (1.0 - most * min(table.z, 1.0));
    hides = 1.0 - (1.0 - hides) * (1.0 - (isCoat ? f.coat : 1.0) * share.g);
  }
  if (coloured) {
    vec3 mirror = brightnesses(gloss) * uPlainScale;
    shares = min(vec3(1.0), mix(brightnesses(matte) * uPlainScale, mirror, f.metal));
    // What every surface mirrors of its surroundings would only veil the colour.
    float above = (1.0 - f.metal) * max(0.0, mirror.x - 1.3 * f.straight)
      + max(0.0, brightness(varnish[0]) - 0.055 * f.coat);
    return worn.colour * shares.x + (uHighlights ? min(above, 1.0) : 0.0);
  }
  vec3 own = (1.0 - f.clear) * under * worn.colour;
  mat3 sent = gloss + varnish + mat3(own * matte[0], own * matte[1], own * matte[2]);
  shares = uExposure * brightnesses(sent) + brightness(f.glow * worn.colour);
  return uExposure * sent[0] + f.glow * worn.colour;
}
`;
