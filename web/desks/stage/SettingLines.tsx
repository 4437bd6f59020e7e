import { secondsIn } from '#core/motion/time-text.ts';
import { cameraAxes, type Vector } from '#core/scene/camera.ts';
import { withProjection } from '#core/scene/camera-moves.ts';
import type { Scene, Stamp } from '#core/scene/document.ts';
import { backdrops } from '#stage/backdrops.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Choice, Chooser, NumberField } from './Chooser.tsx';
import { edit, useRun, useScene } from './desk-store.ts';

/** "Studio light on paper, shadow on the floor." */
export function LightLine() {
  const { light, backdrop } = useScene();
  const run = useRun();
  const flat = run.dimension === 2;
  const change = (c: Partial<Scene['light']>, key: string | null = null) =>
    edit({ type: 'light.change', change: c }, key);
  return (
    <p>
      <Chooser word={light.rig === 'studio' ? 'Studio light' : 'Even light'} label="The light">
        <p className="head mb-1.5">Light</p>
        <Choice
          chosen={light.rig === 'studio'}
          onChoose={() =>
            change({ rig: 'studio', ...(flat ? {} : { floor: true, shadow: true, contact: 0.7 }) })
          }
        >
          <span>
            Studio light <span className="block text-xs text-soft">soft lamp, shade and shadow</span>
          </span>
        </Choice>
        <Choice chosen={light.rig === 'even'} onChoose={() => change({ rig: 'even' })}>
          <span>
            Even light <span className="block text-xs text-soft">colours exactly as in the legend</span>
          </span>
        </Choice>
        {light.rig === 'studio' && (
          <div className="mt-2 flex flex-col gap-1.5 px-2">
            <Tick label="Floor" checked={light.floor} onChange={(floor) => change({ floor })} />
            <Tick
              label="Shadow of the lamp"
              checked={light.shadow}
              onChange={(shadow) => change({ shadow })}
            />
            <label className="flex items-center gap-2">
              <span className="text-soft">Shade in corners</span>
              <input
                type="range"
                className="min-w-0 flex-1"
                min={0}
                max={1}
                step={0.05}
                value={light.contact}
                onChange={(e) => change({ contact: Number(e.target.value) }, 'contact')}
              />
            </label>
          </div>
        )}
      </Chooser>
      {' on '}
      <Chooser word={backdrops[backdrop].name} label="The backdrop">
        <p className="head mb-1.5">Backdrop</p>
        {(Object.keys(backdrops) as Scene['backdrop'][]).map((id) => (
          <Choice
            key={id}
            chosen={backdrop === id}
            onChoose={() => edit({ type: 'backdrop.set', backdrop: id })}
          >
            <span
              className="h-4 w-7 rounded-sm border border-rule"
              style={{ background: `linear-gradient(${backdrops[id].top}, ${backdrops[id].foot})` }}
            />
            {backdrops[id].name}
          </Choice>
        ))}
      </Chooser>
      {light.rig === 'studio' && light.floor && light.shadow ? ', shadow on the floor.' : '.'}
    </p>
  );
}

/** "Perspective of 28°, from x, y and above." */
export function LensLine() {
  const { camera } = useScene();
  return (
    <p>
      <Chooser
        word={
          camera.projection === 'parallel'
            ? 'Parallel view'
            : `Perspective of ${Math.round(camera.fieldOfView)}°`
        }
        label="The lens"
      >
        <p className="head mb-1.5">Lens</p>
        {(['perspective', 'parallel'] as const).map((projection) => (
          <Choice
            key={projection}
            chosen={camera.projection === projection}
            onChoose={() => edit({ type: 'camera.set', camera: withProjection(camera, projection) })}
          >
            {projection === 'perspective' ? 'Perspective' : 'Parallel'}
          </Choice>
        ))}
        {camera.projection === 'perspective' && (
          <div className="mt-2 px-2">
            <NumberField
              label="Opening"
              unit="°"
              value={camera.fieldOfView}
              onChange={(v) => {
                const wider = {
                  ...withProjection(camera, 'parallel'),
                  fieldOfView: Math.min(120, Math.max(2, v)),
                };
                edit({ type: 'camera.set', camera: withProjection(wider, 'perspective') });
              }}
            />
          </div>
        )}
      </Chooser>
      {`, ${sayDirection(cameraAxes(camera).back)}.`}
    </p>
  );
}

/** Where the camera stands, by the axes that matter most. */
function sayDirection(back: Vector): string {
  const names = ['x', 'y', 'z'];
  const strong = back
    .map((v, k) => ({ v, k }))
    .filter(({ v }) => Math.abs(v) > 0.25)
    .sort((a, b) => Math.abs(b.v) - Math.abs(a.v))
    .map(({ v, k }) =>
      k === 2 && Math.abs(v) < 0.97 ? (v > 0 ? 'above' : 'below') : `${v > 0 ? '+' : '−'}${names[k]}`,
    );
  return `from ${strong.join(', ')}`;
}

/** "Time in s with 1 decimal." */
export function WordsLine() {
  const { stamp, picture } = useScene();
  const run = useRun();
  const change = (c: Partial<Stamp>, key: string | null = null) =>
    edit({ type: 'stamp.change', change: c }, key);
  const unit = stamp.unit ?? run.timeUnit;
  const known = run.timeUnit !== null && run.timeUnit in secondsIn;
  return (
    <p>
      <Chooser
        word={
          !stamp.visible
            ? 'No time'
            : stamp.style === 'clock'
              ? 'Time as a clock'
              : `Time${unit ? ` in ${unit}` : ''}`
        }
        label="The time on the picture"
      >
        <p className="head mb-1.5">Time on the picture</p>
        <div className="flex flex-col gap-1.5 px-1">
          <Tick label="Shown" checked={stamp.visible} onChange={(visible) => change({ visible })} />
          {known && (
            <Tick
              label="Minutes and seconds"
              checked={stamp.style === 'clock'}
              onChange={(on) => change({ style: on ? 'clock' : 'decimals' })}
            />
          )}
          {known && stamp.style === 'decimals' && (
            <label className="flex items-center gap-2">
              <span className="text-soft">Unit</span>
              <select className="field" value={unit ?? ''} onChange={(e) => change({ unit: e.target.value })}>
                {Object.keys(secondsIn).map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </select>
            </label>
          )}
          <NumberField
            label="Decimals"
            value={stamp.decimals}
            onChange={(v) => change({ decimals: Math.min(6, Math.max(0, Math.round(v))) })}
          />
        </div>
      </Chooser>
      {' on a '}
      <Chooser word={sayShape(picture.aspect)} label="The shape of the picture">
        <p className="head mb-1.5">Shape of the picture</p>
        {shapes.map(({ aspect, name }) => (
          <Choice
            key={name}
            chosen={picture.aspect === aspect}
            onChoose={() => edit({ type: 'picture.set', aspect })}
          >
            {name}
          </Choice>
        ))}
      </Chooser>
      .
    </p>
  );
}

const shapes: { aspect: number | null; name: string }[] = [
  { aspect: null, name: 'picture as wide as the stage' },
  { aspect: 16 / 9, name: 'picture of 16 to 9' },
  { aspect: 3 / 2, name: 'picture of 3 to 2' },
  { aspect: 4 / 3, name: 'picture of 4 to 3' },
  { aspect: 1, name: 'square picture' },
  { aspect: 9 / 16, name: 'picture of 9 to 16' },
];

function sayShape(aspect: number | null): string {
  const found = shapes.find(
    (s) => s.aspect === aspect || (s.aspect && aspect && Math.abs(s.aspect - aspect) < 1e-3),
  );
  return found?.name ?? `picture of ${aspect!.toFixed(2)} to 1`;
}
