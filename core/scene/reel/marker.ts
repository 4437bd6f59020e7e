import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { LONGEST_REEL } from './lane.ts';

/** A moment of the film with a name: there a chapter begins, and a caption may be shown from there on. */
export const markerSchema = z.object({
  id: z.string().min(1).max(200),
  /** In seconds from the beginning of the film. */
  at: boundedNumber().min(0).max(LONGEST_REEL),
  /** Of the chapter that begins here; empty for none. */
  name: z.string().max(200),
  /** Words that are shown from here on; empty for none. */
  caption: z.string().max(2000),
  /** When they go away again; null for the next caption or the end. */
  until: boundedNumber().min(0).max(LONGEST_REEL).nullable(),
});

export type Marker = z.infer<typeof markerSchema>;

/** From when to when the caption of each marker is shown, in the order of time. */
export function captionSpans(
  markers: readonly Marker[],
  seconds: number,
): { marker: Marker; from: number; to: number }[] {
  const told = markers.filter((m) => m.caption !== '' && m.at < seconds).sort((a, b) => a.at - b.at);
  return told.map((marker, i) => {
    const next = told[i + 1]?.at ?? seconds;
    return {
      marker,
      from: marker.at,
      to: Math.max(marker.at, Math.min(marker.until ?? next, next, seconds)),
    };
  });
}
