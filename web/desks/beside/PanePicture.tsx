import { useRef } from 'react';
import type { ScenePane } from '#core/beside/side-by-side.ts';
import type { Box } from '#core/beside/side-layout.ts';
import { useCameraGestures } from '#web/desks/stage/camera-gestures.ts';
import { PartMenu, usePartMenu } from '#web/desks/stage/PartMenu.tsx';
import { ProbeNote, useProbe } from '#web/desks/stage/Probe.tsx';
import { usePictureKeys } from '#web/desks/stage/picture-keys.ts';
import { usePointing } from '#web/desks/stage/pointing.ts';
import { StageHandles } from '#web/desks/stage/StageHandles.tsx';
import { WordsHandles } from '#web/desks/stage/WordsHandles.tsx';
import { chosenPane, titleOf, useBeside } from './beside-store.ts';
import { boxStyle } from './box-style.ts';
import type { SideController } from './side-controller.ts';
import { usePaneViewport } from './use-pane-viewport.ts';

interface Props {
  pane: ScenePane;
  box: Box;
  controller: SideController;
  editing: boolean;
  over: { clipPath?: string; opacity?: number };
}

/** The picture of a scene: turned, moved and pointed at as on the stage; what is done in it makes it the chosen one. */
export function PanePicture({ pane, box, controller, editing, over }: Props) {
  const runs = useBeside((s) => s.runs);
  const trouble = useBeside((s) => s.troubles[pane.id]);
  const busy = useBeside((s) => s.busy[pane.id] ?? false);
  const isThere = runs.has(pane.run);
  const isChosen = useBeside((s) => chosenPane(s)?.id === pane.id);
  const picture = useRef<HTMLDivElement>(null);
  const { canvas, words, viewport, drawn, settled } = usePaneViewport(controller, pane.id, box, isThere);
  const flat = useBeside((s) => s.onShow[pane.id]?.flat ?? false);
  useCameraGestures(picture, flat);
  const own = isChosen ? viewport : null;
  const menu = usePartMenu(own, picture);
  const rectangle = usePointing(own, picture);
  const keys = usePictureKeys(box, flat, menu.point);
  const probe = useProbe(menu.at ? null : own, picture);
  const choose = (): void => {
    if (!isChosen) useBeside.setState({ chosen: pane.id });
  };
  const title = titleOf(pane, runs);
  return (
    <div
      ref={picture}
      role="application"
      aria-roledescription="picture"
      aria-label={`The picture of ${title}. Arrows turn it, with Shift they move it, plus and minus come nearer.`}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is turned by keys
      tabIndex={0}
      className="absolute touch-none select-none overflow-hidden bg-sheet"
      style={{ ...boxStyle(box), ...over }}
      data-testid="pane"
      data-settled={settled}
      onPointerDownCapture={choose}
      onWheelCapture={choose}
      onFocus={choose}
      onKeyDown={keys.onKeyDown}
      onBlur={keys.onBlur}
    >
      {/* Of another shape it is cut, never stretched, until it is drawn anew. */}
      <canvas ref={canvas} className="absolute inset-0 size-full object-cover" />
      <canvas ref={words} className="pointer-events-none absolute inset-0 size-full object-cover" />
      {isThere && !drawn && !trouble && (
        <p role="status" className="absolute inset-0 grid place-items-center text-soft">
          Being drawn …
        </p>
      )}
      {own && editing && <WordsHandles viewport={own} width={box.width} height={box.height} />}
      {own && editing && <StageHandles width={box.width} height={box.height} />}
      {rectangle && (
        <div className="pointer-events-none absolute border-2 border-accent bg-accent/10" style={rectangle} />
      )}
      {isChosen && <div className="pointer-events-none absolute inset-0 border-2 border-accent" />}
      {probe && <ProbeNote {...probe} width={box.width} />}
      {menu.at && <PartMenu {...menu.at} width={box.width} onClose={menu.close} />}
      {!isThere && (
        <p role="alert" className="absolute inset-0 grid place-items-center px-6 text-center text-warn">
          The run of this pane is no longer there. Choose another one above, or take the pane away.
        </p>
      )}
      {busy && (
        <p role="status" className="card absolute right-2 bottom-2 flex items-center gap-2 px-2.5 py-1">
          Working …
          <button type="button" className="quiet h-7" onClick={controller.cancel}>
            Cancel
          </button>
        </p>
      )}
      {trouble && (
        <p role="alert" className="card absolute top-2 left-2 max-w-[90%] px-3 py-2 text-sm">
          {trouble}
        </p>
      )}
    </div>
  );
}
