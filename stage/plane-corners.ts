/** Where on a picture the corners of its plane lie, from the lower left around, two numbers each from the top left. */
export const PLANE_CORNERS = Float32Array.of(0, 1, 1, 1, 1, 0, 0, 0);
