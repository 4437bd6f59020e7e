import { Crosshair } from 'lucide-react';
import { use, useState } from 'react';
import type { Hook } from '#core/scene/annotations/attachment.ts';
import { imageTypes } from '#core/scene/annotations/image-source.ts';
import { fitted, readWorldFile } from '#core/scene/annotations/placed-image.ts';
import { annotationKinds } from '#core/scene/annotations/registry.ts';
import { readPictureFile } from '#web/desks/shared/picture-file.ts';
import { NumberField } from '../Chooser.tsx';
import { useRun } from '../desk-store.ts';
import { FindingContext } from '../finding-context.ts';
import { TemplateField } from '../words/TemplateField.tsx';
import { hookTo, pointAtHook } from '../words/word-edits.ts';
import type { ControlProps } from './control-props.ts';
import { Row } from './VectorControls.tsx';

/** Words with values in braces. */
export function TemplateControl({ control, options, set }: ControlProps<'template'>) {
  const run = useRun();
  const { key, label } = control;
  const kind = annotationKinds.find((k) => k.id === options.kind);
  return (
    <div>
      <p className="mb-1 text-soft">{label}</p>
      <TemplateField
        label={label}
        lines={control.lines === true}
        value={String(options[key])}
        here={kind?.here?.(options, run) ?? null}
        onChange={(text) => set({ [key]: text }, `text-${key}`)}
      />
    </div>
  );
}

const WORLD_FILES = '.pgw,.pngw,.jgw,.jpgw,.wpw,.tfw,.wld';

/** A picture of one's own; one that lies in coordinates may come with its world file. */
export function ImageControl({ control, options, setting, set }: ControlProps<'image'>) {
  const { key, label, placed = false } = control;
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (files: readonly File[]): Promise<void> => {
    const picture = files.find((f) => imageTypes.some((type) => type === f.type));
    const world = files.find((f) => f !== picture);
    if (!picture && !(placed && world))
      throw new Error(
        `${files[0]?.name ?? 'This'} is no picture that can be shown. Choose a PNG, JPEG, WebP or SVG file.`,
      );
    const read = picture ? await readPictureFile(picture) : null;
    const pixels = read?.pixels ?? (options.pixels as [number, number]);
    const lies = !placed
      ? {}
      : world
        ? { world: readWorldFile(await world.text()) }
        : fitted(pixels, setting.bounds, options.along as 'x' | 'y' | 'z');
    set({ ...(read ? { [key]: read.source } : {}), ...(placed ? { pixels } : {}), ...lies });
  };
  return (
    <div>
      <Row label={label}>
        {options[key] !== '' && (
          <img
            src={String(options[key])}
            alt=""
            className="h-9 max-w-20 rounded-sm border border-rule object-contain"
          />
        )}
        <label className="quiet h-7 cursor-pointer">
          {options[key] === '' ? 'Choose …' : 'Choose another …'}
          <input
            type="file"
            className="sr-only"
            aria-label={label}
            multiple={placed}
            accept={[...imageTypes, ...(placed ? [WORLD_FILES] : [])].join()}
            onChange={(e) => {
              const files = [...(e.target.files ?? [])];
              e.target.value = '';
              if (files.length === 0) return;
              setTrouble(null);
              take(files).catch((error: Error) => setTrouble(error.message));
            }}
          />
        </label>
      </Row>
      {placed && (
        <p className="mt-1 text-xs text-soft">
          Choose the picture together with its world file; without one it lies over what is shown.
        </p>
      )}
      {trouble && (
        <p role="alert" className="mt-1 text-xs text-warn">
          {trouble}
        </p>
      )}
    </div>
  );
}

const hooks: { on: Hook['on']; says: string }[] = [
  { on: 'highest', says: 'the highest value' },
  { on: 'lowest', says: 'the lowest value' },
  { on: 'part', says: 'a part' },
  { on: 'node', says: 'a node' },
  { on: 'cell', says: 'a cell' },
  { on: 'place', says: 'a place' },
];

/** What words hang on: chosen by its kind, pointed at, or by part and number. */
export function HookControl({ control, options, set }: ControlProps<'hook'>) {
  const run = useRun();
  const { nearest } = use(FindingContext);
  const hook = options as unknown as Hook;
  const point = (on: Hook['on']): void =>
    pointAtHook(on, nearest, (change) => set({ ...change, aside: null }));
  return (
    <>
      <Row label={control.label}>
        <select
          aria-label={control.label}
          className="field h-7 min-w-0 flex-1"
          value={hook.on}
          onChange={(e) => {
            const on = e.target.value as Hook['on'];
            if (on === 'lowest' || on === 'highest') set({ ...hookTo(on, hook, run), aside: null });
            else point(on);
          }}
        >
          {hooks.map(({ on, says }) => (
            <option key={on} value={on}>
              {says}
            </option>
          ))}
        </select>
        {hook.on !== 'lowest' && hook.on !== 'highest' && (
          <button
            type="button"
            className="mark size-7"
            title="Point at it on the picture"
            aria-label="Point at what it hangs on"
            onClick={() => point(hook.on)}
          >
            <Crosshair size={15} />
          </button>
        )}
      </Row>
      {(hook.on === 'part' || hook.on === 'node' || hook.on === 'cell') && (
        <Row label="Part">
          <select
            aria-label="Part it hangs on"
            className="field h-7 min-w-0 flex-1"
            value={hook.part}
            onChange={(e) => set({ part: e.target.value })}
          >
            {run.parts.map((p) => (
              <option key={p.name}>{p.name}</option>
            ))}
          </select>
        </Row>
      )}
      {(hook.on === 'node' || hook.on === 'cell') && (
        <NumberField
          label={<span className="inline-block w-20 text-soft">Number</span>}
          value={hook.index}
          unit={null}
          onChange={(v) => set({ index: Math.max(0, Math.round(v)) })}
        />
      )}
      {hook.aside && (
        <button type="button" className="quiet h-7 self-start" onClick={() => set({ aside: null })}>
          Find room for it again
        </button>
      )}
    </>
  );
}
