import { speak } from '../../language/sentence.ts';
import type { NotRead } from '../../language/sentence-reader.ts';
import { SentenceReader } from '../../language/sentence-reader.ts';
import { sameJson } from '../../model/same-json.ts';
import { readEase, sayEase } from '../../scene/reel/ease-words.ts';
import type { Begun } from '../../scene/reel/reel-edits.ts';
import { spanOfReel } from '../../scene/things/reel.ts';
import type { BeginningSetting, Span } from './beginning.ts';
import { type AnyBeginning, beginnings } from './registry.ts';

/** A motion as it was understood. */
export interface ReadMotion {
  beginning: AnyBeginning;
  options: object;
  span: Span;
}

/** A motion in full: `from 2 s to 5 s sweep section 1 from x = 0 to 0.8 m, ease both ends`. */
export function sayMotion({ beginning, options, span }: ReadMotion, setting: BeginningSetting): string {
  const said = speak(beginning.phrase.say(options, { ...setting, exact: true }) ?? []);
  const ease = sameJson(span.ease, beginning.ease) ? '' : `, ${sayEase(span.ease)}`;
  return `from ${span.from} s to ${span.to} s ${said}${ease}`;
}

/**
 * Reads a motion that was typed. Its time may stand before or behind it; without one it takes the whole film.
 *
 * @returns what would be understood, and where, when it is not
 */
export function readMotion(text: string, setting: BeginningSetting): ReadMotion | NotRead {
  const reader = new SentenceReader(text);
  const before = reader.first([() => readTime(reader)]);
  let lacking: string | null = null;
  /** Where a motion was begun that has nothing to move here, and why. */
  let stopped = null as { at: number; says: string } | null;
  const found = reader.first(
    beginnings.map((beginning) => () => {
      const options = beginning.defaults(setting);
      const into: object = typeof options === 'string' ? {} : { ...options };
      const reached = reader.failure.at;
      if (!beginning.phrase.read(reader, into, setting)) {
        const { at } = reader.failure;
        if (typeof options === 'string' && at > reached) stopped = { at, says: options };
        return undefined;
      }
      if (typeof options !== 'string') return { beginning, options: into };
      lacking ??= options;
      return undefined;
    }),
  );
  if (!found) {
    const { failure } = reader;
    // Nothing could stand where it stopped: it is no use to offer words.
    if (stopped?.at === failure.at && failure.expected.length === 0) lacking ??= stopped.says;
    return lacking === null ? failure : refused(text, lacking);
  }
  const behind = before ?? reader.first([() => readTime(reader)]);
  const ease = reader.first([() => reader.words(',') && readEase(reader)]) ?? found.beginning.ease;
  if (!reader.done) {
    reader.miss(['the end', ...(behind ? [] : ['from … s to … s']), ', ease both ends']);
    return reader.failure;
  }
  const checked = found.beginning.schema.safeParse(found.options);
  if (!checked.success) return refused(text, checked.error.issues[0].message);
  const span = { ...(behind ?? spanOfReel(setting.scene.reel)), ease };
  if (!(span.to >= span.from)) return refused(text, 'The time it takes ends before it begins.');
  if (span.to === span.from) return refused(text, 'It takes no time: let it end later than it begins.');
  return { beginning: found.beginning, options: checked.data as object, span };
}

/** All of it means something, but cannot be. */
const refused = (text: string, because: string): NotRead => ({
  at: 0,
  expected: [],
  refused: { because: because.replace(/\.$/, ''), to: text.length },
});

function readTime(reader: SentenceReader): { from: number; to: number } | undefined {
  if (!reader.words('from')) return undefined;
  const from = reader.number('s', 'a time');
  const to = from !== undefined && reader.words('to') ? reader.number('s', 'a time') : undefined;
  return from === undefined || to === undefined ? undefined : { from, to };
}

/** The keys of a motion. */
export const begun = ({ beginning, options, span }: ReadMotion, setting: BeginningSetting): Begun =>
  beginning.begin(options, span, setting);
