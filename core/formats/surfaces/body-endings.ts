/** Endings of files of bodies that can stand beside results. */
export const bodyEndings: readonly string[] = ['.glb', '.gltf', '.stl', '.obj', '.ply'];

export const isBodyFile = (name: string): boolean =>
  bodyEndings.some((ending) => name.toLowerCase().endsWith(ending));
