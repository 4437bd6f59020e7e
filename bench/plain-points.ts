/** What the page is told; the box is one high. */
export interface PlainPoints {
  places: number[];
  pixels: number;
  width: number;
  height: number;
}

/**
 * The yardstick of spheres: bare points as the card draws them, squares in a colour of their value, into as many buffers of
 * the same kind. It runs in a page, so that all it needs is in it.
 *
 * @returns milliseconds of a picture, several times
 */
export function plainPoints({ places, pixels, width, height }: PlainPoints): number[] {
  const rounds = 7;
  const gl = Object.assign(document.createElement('canvas'), { width, height }).getContext('webgl2')!;
  gl.getExtension('EXT_color_buffer_float');
  const program = gl.createProgram();
  const shader = (kind: number, text: string): void => {
    const made = gl.createShader(kind)!;
    gl.shaderSource(made, `#version 300 es\nprecision highp float;\n${text}`);
    gl.compileShader(made);
    gl.attachShader(program, made);
  };
  shader(
    gl.VERTEX_SHADER,
    `in vec3 place; flat out float value; void main() {
       value = place.x;
       gl_Position = vec4(2.0 * place.x * ${(height / width).toFixed(6)}, 2.0 * place.y, place.z, 1.0);
       gl_PointSize = ${pixels.toFixed(2)};
     }`,
  );
  shader(
    gl.FRAGMENT_SHADER,
    `flat in float value; layout(location = 0) out vec4 colour; layout(location = 1) out vec4 light; void main() {
       colour = vec4(value, 1.0 - value, 0.5, 1.0);
       light = vec4(0.0, 0.0, 0.0, 1.0);
     }`,
  );
  gl.bindAttribLocation(program, 0, 'place');
  gl.linkProgram(program);
  if (!gl.getProgramParameter(program, gl.LINK_STATUS)) throw new Error(gl.getProgramInfoLog(program) ?? '');
  gl.useProgram(program);
  gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
  for (const [k, at] of [gl.COLOR_ATTACHMENT0, gl.COLOR_ATTACHMENT1].entries()) {
    const texture = gl.createTexture();
    gl.activeTexture(gl.TEXTURE0 + k);
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA16F, width, height);
    gl.framebufferTexture2D(gl.FRAMEBUFFER, at, gl.TEXTURE_2D, texture, 0);
  }
  gl.drawBuffers([gl.COLOR_ATTACHMENT0, gl.COLOR_ATTACHMENT1]);
  const depth = gl.createRenderbuffer();
  gl.bindRenderbuffer(gl.RENDERBUFFER, depth);
  gl.renderbufferStorage(gl.RENDERBUFFER, gl.DEPTH_COMPONENT24, width, height);
  gl.framebufferRenderbuffer(gl.FRAMEBUFFER, gl.DEPTH_ATTACHMENT, gl.RENDERBUFFER, depth);
  gl.viewport(0, 0, width, height);
  gl.enable(gl.DEPTH_TEST);
  gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
  gl.bufferData(gl.ARRAY_BUFFER, new Float32Array(places), gl.STATIC_DRAW);
  gl.enableVertexAttribArray(0);
  gl.vertexAttribPointer(0, 3, gl.FLOAT, false, 0, 0);
  const pixel = new Float32Array(4);
  const settle = (): void => gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.FLOAT, pixel);
  return Array.from({ length: rounds }, () => {
    gl.clear(gl.COLOR_BUFFER_BIT | gl.DEPTH_BUFFER_BIT);
    settle();
    const began = performance.now();
    gl.drawArrays(gl.POINTS, 0, places.length / 3);
    settle();
    return performance.now() - began;
  });
}
