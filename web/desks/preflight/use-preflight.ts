import { useMemo } from 'react';
import { sceneToCheck } from '#core/preflight/checked-scene.ts';
import { preflight } from '#core/preflight/registry.ts';
import type { Finding, Subjects } from '#core/preflight/rule.ts';
import { useDesk, useRun, useScene } from '#web/desks/stage/desk-store.ts';

/** Rows of a still, as long as nobody asks for others: how many the screen has for it says nothing. */
const USUAL_HEIGHT = 1080;

const usualSize = ({ width, height }: { width: number; height: number }) => ({
  width: Math.round((USUAL_HEIGHT * width) / Math.max(1, height)),
  height: USUAL_HEIGHT,
});

/**
 * What the preflight finds in the scene on show.
 *
 * @param also what is made of it: its film, a file
 * @param size of the picture that is made, in pixels; null for one of the usual size
 */
export function usePreflight(
  also: Pick<Partial<Subjects>, 'film' | 'file'> = {},
  size: { width: number; height: number } | null = null,
): Finding[] {
  const scene = useScene();
  const run = useRun();
  const spreads = useDesk((s) => s.spreads);
  const readings = useDesk((s) => s.readings);
  const curves = useDesk((s) => s.curves);
  const seen = useDesk((s) => s.seen);
  const { film, file } = also;
  const [width, height] = [size?.width, size?.height];
  return useMemo(() => {
    const picture = seen && { ...seen, ...(width && height ? { width, height } : usualSize(seen)) };
    const checked = sceneToCheck(scene, run, scene.step, { spreads, readings, curves, picture });
    return preflight({ ...checked, ...(film && { film }), ...(file && { file }) }, scene.checks);
  }, [scene, run, spreads, readings, curves, seen, width, height, film, file]);
}
