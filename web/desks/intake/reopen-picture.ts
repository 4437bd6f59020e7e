import type { FileProblem } from '#core/model/read-error.ts';
import { ask } from '#engine/server-requests.ts';
import { sceneInPicture } from '#stage/pictures/about.ts';
import type { KnownRun } from '#web/server/known-runs.ts';

/** What came of opening the scene of a picture: the new scene, or why there is none. */
export type Reopened = { scene: string } | { problem: FileProblem };

const mayHoldScene = (name: string): boolean => /\.(png|jpe?g|webp|avif|tiff?|exr)$/i.test(name);

/**
 * Opens the scene that a picture was made of, as a scene of its own, on the latest run of the name the picture states.
 *
 * @returns null for a file that was not given out with its scene
 */
export async function reopenPicture(file: File): Promise<Reopened | null> {
  if (!mayHoldScene(file.name)) return null;
  const found = sceneInPicture(new Uint8Array(await file.arrayBuffer()));
  if (found === null) return null;
  const problem = (reason: string): Reopened => ({
    problem: {
      file: file.name,
      reason,
      where: 'what the picture says of itself',
      remedy:
        'Bring in the files of its run and drop the picture here again, or drop it on the stage of another run.',
    },
  });
  if (found.run === null) return problem('it holds a scene, but not the name of its run');
  const runs = await ask<KnownRun[]>('/api/runs');
  const run = runs.find(({ name }) => name === found.run);
  if (!run) return problem(`it was made of the run ${found.run}, which is not here`);
  const { id } = await ask<{ id: string }>('/api/scenes', {
    method: 'POST',
    json: { run: run.id, document: found.scene },
  });
  return { scene: id };
}
