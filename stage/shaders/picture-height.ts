import { tile } from './tile.ts';

/** For what is as large on the picture wherever it stands; with the matrices and the tile it reads. */
export const pictureHeight = /* glsl */ `
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
${tile}
/** How much of the model the height of the picture is at a place. */
float pictureHeight(vec3 place) {
  float w = (projectionMatrix * (modelViewMatrix * vec4(place, 1.0))).w;
  return 2.0 * w / (projectionMatrix[1][1] * uTile.w);
}
`;
