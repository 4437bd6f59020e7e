import { useState } from 'react';
import type { Enclosure } from '#core/scene/enclosure.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { problemFrom } from '#engine/server-requests.ts';
import { meanColours, readPicture } from '#stage/enclosed-light.ts';
import { readPanorama } from '#stage/panorama-file.ts';
import type { ControlProps } from './control-props.ts';
import { Row } from './VectorControls.tsx';

/** What can be chosen, and how it is read to see whether it can be shown. */
const kinds = {
  panorama: {
    accept: '.hdr,.exr,.pic',
    read: readPanorama,
    hint: 'Radiance (.hdr) or OpenEXR, twice as wide as high.',
  },
  picture: {
    accept: '.png,.jpg,.jpeg,.webp,.avif',
    read: readPicture,
    hint: 'It fills the picture and is cut at its edges.',
  },
} as const;

/** A file that goes with the scene: looked at first, then kept. */
export function EnclosureControl({ control, options, set }: ControlProps<'enclosure'>) {
  const { key, label, of, ends } = control;
  const now = options[key] as Enclosure | null;
  const [state, setState] = useState<{ busy: boolean; trouble: string | null }>({
    busy: false,
    trouble: null,
  });
  const { accept, read, hint } = kinds[of];

  const take = async (file: File): Promise<void> => {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const seen = await read(bytes, file.name);
    const [top, foot] = meanColours(seen);
    const enclosure = await keepEnclosed(file.name, bytes);
    set({ [key]: enclosure, ...(ends ? { [ends[0]]: top, [ends[1]]: foot } : {}) });
  };

  return (
    <div>
      <Row label={label}>
        {now && (
          <span className="min-w-0 flex-1 truncate" title={now.name}>
            {now.name}
          </span>
        )}
        <label className="quiet h-7 shrink-0 cursor-pointer">
          {state.busy ? 'Reading …' : now ? 'Another …' : 'Choose …'}
          <input
            type="file"
            className="sr-only"
            aria-label={label}
            accept={accept}
            disabled={state.busy}
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              e.target.value = '';
              if (!file) return;
              setState({ busy: true, trouble: null });
              take(file).then(
                () => setState({ busy: false, trouble: null }),
                (error: unknown) => setState({ busy: false, trouble: sayTrouble(error) }),
              );
            }}
          />
        </label>
      </Row>
      {state.trouble ? (
        <p role="alert" className="mt-1 text-xs text-warn">
          {state.trouble}
        </p>
      ) : (
        !now && <p className="mt-1 text-xs text-soft">{hint}</p>
      )}
    </div>
  );
}

function sayTrouble(error: unknown): string {
  const { reason, remedy } = problemFrom(error);
  return error instanceof Error && error.message === reason ? reason : `${reason}. ${remedy}`;
}
