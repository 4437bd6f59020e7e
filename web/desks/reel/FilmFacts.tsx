import { TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { filmPictures, sayPace, stepsOfFilm, warningsOfFilm } from '#core/motion/reel-facts.ts';
import { pluralKind } from '#core/motion/step-text.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import { useKeptScene, useRun } from '#web/desks/stage/desk-store.ts';

/**
 * What the film comes to before it is made, and what spoils it.
 *
 * @param inFull each thing on a line of its own, where there is room
 * @param children what stands at the end of the line
 */
export function FilmFacts({ inFull = false, children }: { inFull?: boolean; children?: ReactNode }) {
  const scene = useKeptScene();
  const run = useRun();
  const { count, rate } = filmPictures(scene);
  const steps = stepsOfFilm(scene, run);
  const { shown, made, pace } = steps;
  const facts = [
    inFull
      ? `${count} pictures, ${Number((count / rate).toFixed(2))} s at ${rate} a second`
      : `${count} pictures`,
    ...(run.steps.length > 1
      ? [`${shown} of ${run.steps.length} ${pluralKind[run.steps[0].kind]} used`]
      : []),
    ...(made > 0 ? [`${made} made between two steps`] : []),
    ...(pace ? [sayPace(pace)] : []),
  ];
  const troubles = warningsOfFilm(scene, run, steps);
  if (inFull)
    return (
      <div className="text-xs text-soft">
        <p>{facts.join(' · ')}</p>
        {troubles.map((says) => (
          <p key={says} className="mt-1 text-warn">
            {says}
          </p>
        ))}
      </div>
    );
  return (
    <p className="flex h-7 shrink-0 items-center gap-3 border-t border-rule px-4 text-xs text-soft">
      <span className="truncate" title={facts.join(' · ')}>
        {facts.join(' · ')}
      </span>
      {troubles.length > 0 && (
        <Chooser
          look="inline-flex shrink-0 items-center gap-1 text-warn"
          word={
            <>
              <TriangleAlert size={14} /> {troubles.length} to know
            </>
          }
          label="What spoils the film"
          wide
        >
          <ul className="flex flex-col gap-2 text-sm">
            {troubles.map((says) => (
              <li key={says}>{says}</li>
            ))}
          </ul>
        </Chooser>
      )}
      <span className="ml-auto shrink-0">{children}</span>
    </p>
  );
}
