import type { Scene } from '../../scene/document.ts';
import { viewings } from '../../scene/things/checks.ts';
import type { SeenWord, SeenWords } from '../picture-seen.ts';
import { type Mend, rule } from '../rule.ts';

/**
 * Letters are read with ease from 20 minutes of arc, and hardly below 16 (ISO 9241-303: height of capitals; from memory).
 */
const LEAST_ARC = 16;
/** Height of capitals in heights of the letters: of the typefaces that ship. */
const CAPITALS = 0.72;

/** Fewer pixels than these are no letters, however near one looks. Common practice, no source. */
const LEAST_PIXELS = 9;

/** Minutes of arc that capitals of a word take. */
export function arcOf(
  word: Pick<SeenWord, 'height'>,
  aspect: number,
  { width, distance }: { width: number; distance: number },
): number {
  const high = CAPITALS * word.height * (width / aspect);
  return (2 * Math.atan(high / (2 * distance)) * 60 * 180) / Math.PI;
}

/** Words that whoever looks at the picture cannot read. */
export const smallWords = rule({
  id: 'small words',
  name: 'words too small where they are read',
  severity: 'moderate',
  of: 'scene',
  find({ scene, picture }) {
    if (!picture) return [];
    const viewing = viewings[scene.checks.seen];
    const aspect = picture.width / picture.height;
    return picture.words.flatMap((words) => {
      const [smallest] = words.words.toSorted((a, b) => a.height - b.height);
      const arc = smallest ? arcOf(smallest, aspect, viewing) : LEAST_ARC;
      const pixels = smallest ? smallest.height * picture.height : LEAST_PIXELS;
      if (arc >= LEAST_ARC && pixels >= LEAST_PIXELS) return [];
      const times = Math.max(LEAST_ARC / arc, LEAST_PIXELS / pixels);
      return {
        place: { kind: 'words' as const, id: words.id, name: words.name },
        says:
          pixels < LEAST_PIXELS
            ? `“${smallest.text}” is ${Math.round(pixels)} pixels high at ${picture.width} × ${picture.height}: it cannot be read.`
            : `“${smallest.text}” is too small ${viewing.label}: its capitals take ${Math.round(arc)} of ${LEAST_ARC} minutes of arc.`,
        remedy: 'Make it larger, or make the picture for another place.',
        ...largerWords(scene, words, times),
      };
    });
  },
});

/** Rounded up, so that it is enough. */
const larger = (size: number, times: number): number => Math.ceil(size * times * 10) / 10;

function largerWords(
  { annotations, scales }: Scene,
  { kind, id }: SeenWords,
  times: number,
): { mend?: Mend } {
  const says = 'Make it larger';
  if (kind === 'annotation') {
    const size = annotations.find((a) => a.id === id)?.size;
    if (typeof size !== 'number') return {};
    return {
      mend: {
        says,
        edits: [{ type: 'annotation.change' as const, id, change: { size: larger(size, times) } }],
      },
    };
  }
  const scale = scales.find((s) => s.id === id);
  if (kind !== 'legend' || !scale) return {};
  const change = { size: larger(scale.legend.size, times) };
  return { mend: { says, edits: [{ type: 'legend.change' as const, id, change }] } };
}
