/** Which part of the whole picture is drawn: where it begins, from the lower left, and its share; for shaders put together of several parts, once. */
export const tile = /* glsl */ `
#ifndef TILE
#define TILE
uniform vec4 uTile;
#endif
`;
