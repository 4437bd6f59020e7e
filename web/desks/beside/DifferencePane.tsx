import { useEffect, useRef, useState } from 'react';
import type { Difference } from '#core/beside/difference.ts';
import { pairOf } from '#core/beside/side-by-side.ts';
import { type Box, DIFFERENCE } from '#core/beside/side-layout.ts';
import { sayNumber, sayQuantity } from '#core/language/sentence.ts';
import { projectPoint } from '#core/scene/camera.ts';
import { useCameraGestures } from '#web/desks/stage/camera-gestures.ts';
import { titleOf, useBeside, useSide } from './beside-store.ts';
import { boxStyle } from './box-style.ts';
import { largestDifferences, type PartDifference } from './largest-differences.ts';
import type { SideController } from './side-controller.ts';
import { usePaneViewport } from './use-pane-viewport.ts';

/** More of the largest differences than this are not listed. */
const LISTED = 8;

interface Props {
  title: Box;
  picture: Box;
  controller: SideController;
}

/** What the first of two shows less what the second shows, with where they differ most. */
export function DifferencePane({ title, picture, controller }: Props) {
  const side = useSide();
  const { runs, onShow, troubles } = useBeside();
  const pair = pairOf(side);
  const key = pair ? `${pair[0].run} ${pair[1].run}` : '';
  const isThere = pair?.every((p) => runs.has(p.run)) ?? false;
  const found = controller.difference();
  const trouble = typeof found === 'string' ? found : troubles[DIFFERENCE];
  const [pointed, setPointed] = useState<PartDifference | null>(null);
  return (
    <>
      <header className="absolute flex items-center gap-2 bg-paper px-2.5 text-sm" style={boxStyle(title)}>
        <span className="truncate font-medium">
          {pair ? `${titleOf(pair[0], runs)} less ${titleOf(pair[1], runs)}` : 'Difference'}
        </span>
      </header>
      {isThere && <Picture key={key} box={picture} controller={controller} pointed={pointed} />}
      {trouble && (
        <p
          role="alert"
          className="card absolute px-3 py-2"
          style={{ left: picture.x + 12, top: picture.y + 12 }}
        >
          {trouble}
        </p>
      )}
      {isThere && found && typeof found !== 'string' && onShow[DIFFERENCE] && (
        <Largest
          box={picture}
          difference={found}
          controller={controller}
          pointed={pointed}
          onPoint={setPointed}
        />
      )}
    </>
  );
}

function Picture({
  box,
  controller,
  pointed,
}: {
  box: Box;
  controller: SideController;
  pointed: PartDifference | null;
}) {
  const picture = useRef<HTMLDivElement>(null);
  const { canvas, words, settled } = usePaneViewport(controller, DIFFERENCE, box);
  const side = useSide();
  const flat = useBeside((s) => s.onShow[DIFFERENCE]?.flat ?? false);
  useCameraGestures(picture, flat);
  const [first] = pairOf(side) ?? [];
  const at =
    pointed?.place && first ? projectPoint(first.scene.camera, pointed.place, box.width / box.height) : null;
  return (
    <div
      ref={picture}
      role="application"
      aria-roledescription="picture"
      aria-label="The picture of the difference"
      className="absolute touch-none select-none overflow-hidden bg-sheet"
      style={boxStyle(box)}
      data-testid="difference"
      data-settled={settled}
      // It is turned with the first of the two.
      onPointerDownCapture={() => first && useBeside.setState({ chosen: first.id })}
      onWheelCapture={() => first && useBeside.setState({ chosen: first.id })}
    >
      <canvas ref={canvas} className="absolute inset-0 size-full object-cover" />
      <canvas ref={words} className="pointer-events-none absolute inset-0 size-full object-cover" />
      {at && (
        <span
          className="pointer-events-none absolute size-7 -translate-1/2 rounded-full border-[3px] border-accent outline-2 outline-sheet"
          style={{ left: at.x * box.width, top: at.y * box.height }}
        />
      )}
    </div>
  );
}

interface LargestProps {
  box: Box;
  difference: Difference;
  controller: SideController;
  pointed: PartDifference | null;
  onPoint(to: PartDifference | null): void;
}

/** The largest differences; pointing at one shows where it is. */
function Largest({ box, difference, controller, pointed, onPoint }: LargestProps) {
  const side = useSide();
  const [found, setFound] = useState<PartDifference[] | null>(null);
  const asked = JSON.stringify([
    pairOf(side)?.map((p) => [p.run, p.scene.step]),
    difference.scene.quantities,
    difference.name,
  ]);
  useEffect(() => {
    let isWanted = true;
    setFound(null);
    largestDifferences(controller.differenceSource, difference.scene, difference.name).then(
      (all) => isWanted && setFound(all),
      () => isWanted && setFound([]),
    );
    return () => {
      isWanted = false;
    };
  }, [asked, controller]);
  return (
    <section
      aria-label="Largest differences"
      className="card absolute z-10 max-w-[46%] px-3 py-2 text-xs"
      style={{ left: box.x + 10, top: box.y + 10 }}
    >
      <h3 className="head mb-1">Largest differences</h3>
      {!found && <p role="status">Looking …</p>}
      {found?.length === 0 && <p>None: both are alike everywhere, or have nothing in common.</p>}
      <ul>
        {found?.slice(0, LISTED).map((one) => (
          <li key={`${one.part} ${one.value}`}>
            <button
              type="button"
              aria-pressed={pointed === one}
              className={`flex w-full items-baseline gap-3 rounded px-1 py-0.5 text-left hover:bg-sunk ${pointed === one ? 'bg-accent-wash' : ''}`}
              onClick={() => onPoint(pointed === one ? null : one)}
            >
              <span className="min-w-16 truncate">{one.part}</span>
              <span className="ml-auto font-medium tabular-nums">
                {one.value > 0 ? '+' : ''}
                {sayQuantity(one.value, one.unit, 4)}
              </span>
              {one.place && (
                <span className="text-soft tabular-nums">
                  ({one.place.map((v) => sayNumber(v, 3)).join(', ')})
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
