import type { Enclosure } from '#core/scene/enclosure.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { meanColours, readPicture } from '#stage/enclosed-light.ts';
import { readPanorama } from '#stage/panorama-file.ts';
import type { ControlProps } from './control-props.ts';
import { FileRow } from './FileRow.tsx';

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
  const { accept, read, hint } = kinds[of];
  const take = async (file: File, signal: AbortSignal): Promise<void> => {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const seen = await read(bytes, file.name);
    const [top, foot] = meanColours(seen);
    const enclosure = await keepEnclosed(file.name, bytes);
    if (!signal.aborted) set({ [key]: enclosure, ...(ends ? { [ends[0]]: top, [ends[1]]: foot } : {}) });
  };
  return <FileRow label={label} now={now?.name ?? null} accept={accept} hint={hint} take={take} />;
}
