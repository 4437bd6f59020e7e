import type { Marker, Scene } from '../scene/document.ts';
import { captionSpans } from '../scene/reel/marker.ts';
import { spanOfReel } from '../scene/things/reel.ts';

interface Cue {
  from: number;
  to: number;
  text: string;
}

/** `01:02:03.450` */
function stamp(seconds: number): string {
  const millis = Math.round(1000 * seconds);
  const part = (of: number, digits: number): string => String(of).padStart(digits, '0');
  const whole = Math.floor(millis / 1000);
  return `${part(Math.floor(whole / 3600), 2)}:${part(Math.floor(whole / 60) % 60, 2)}:${part(whole % 60, 2)}.${part(millis % 1000, 3)}`;
}

/** Text of a cue: what would be a tag or a reference is none, and no line is empty, for that would end the cue. */
const cueText = (text: string): string =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .join('\n');

/**
 * A file of cues (W3C, WebVTT: The Web Video Text Tracks Format); empty where there are none. Those that lie outside what is given
 * out, which end before they begin, are left out.
 */
function fileOf(cues: readonly Cue[]): string {
  const shown = cues
    .map((cue) => ({ ...cue, text: cueText(cue.text) }))
    .filter(({ from, to, text }) => to > from && text !== '');
  if (shown.length === 0) return '';
  return `WEBVTT\n\n${shown.map(({ from, to, text }, i) => `${i + 1}\n${stamp(from)} --> ${stamp(to)}\n${text}\n`).join('\n')}`;
}

/** What goes beside a film. */
export const textTracks = ['captions', 'chapters'] as const;
export type TextTrack = (typeof textTracks)[number];

/** A file that goes beside the film of a scene; empty where that has nothing of the kind. */
export const trackOfFilm = ({ markers, reel }: Pick<Scene, 'markers' | 'reel'>, track: TextTrack): string =>
  webVtt(markers, track, { seconds: reel.seconds, ...spanOfReel(reel) });

export interface TrackBeside {
  track: TextTrack;
  /** The whole file. */
  text: string;
}

/** All files that go beside the film of a scene. */
export const tracksBeside = (scene: Pick<Scene, 'markers' | 'reel'>): TrackBeside[] =>
  textTracks.map((track) => ({ track, text: trackOfFilm(scene, track) })).filter(({ text }) => text !== '');

/**
 * The captions of a film, or its chapters, as they go beside it.
 *
 * @param from the time of the film at which what is given out begins, and `to` at which it ends
 */
export function webVtt(
  markers: readonly Marker[],
  of: TextTrack,
  { seconds, from, to }: { seconds: number; from: number; to: number },
): string {
  const within = (cue: Cue): Cue => ({
    ...cue,
    from: Math.max(0, cue.from - from),
    to: Math.min(to, cue.to) - from,
  });
  if (of === 'captions')
    return fileOf(
      captionSpans(markers, seconds).map((s) => within({ from: s.from, to: s.to, text: s.marker.caption })),
    );
  const named = markers.filter((m) => m.name !== '').sort((a, b) => a.at - b.at);
  return fileOf(
    named.map(({ at, name }, i) => within({ from: at, to: named[i + 1]?.at ?? seconds, text: name })),
  );
}
