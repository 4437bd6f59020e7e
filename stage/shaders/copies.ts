/** Entries in a row of a table; a power of two, for the card counts in whole numbers. */
export const ROW = 4096;

/**
 * Things that are drawn many times at vertices of a mark. There are no attributes: what a thing is made of stands in
 * tables, and is found by the number of the vertex of its shape.
 */
export const copiesShader = /* glsl */ `
precision highp int;
precision highp sampler2D;
precision highp usampler2D;
/** Vertices of the mark that the things are drawn at, one thing after the other. */
uniform usampler2D uPicks;
/** Where the vertices of the mark lie, and one more number of each. */
uniform sampler2D uPlaces;
uniform sampler2D uValues;
ivec2 entry(int i) { return ivec2(i & ${ROW - 1}, i / ${ROW}); }
int pick(int i) { return int(texelFetch(uPicks, entry(i), 0).x); }
vec4 placeOf(int vertex) { return texelFetch(uPlaces, entry(vertex), 0); }
/** The value of a vertex of the mark, and whether it is known: what is not has the largest number there is. */
void valueOf(int vertex, out float value, out float known) {
  value = texelFetch(uValues, entry(vertex), 0).x;
  known = value < 3.0e38 ? 1.0 : 0.0;
  if (known == 0.0) value = 0.0;
}
`;
