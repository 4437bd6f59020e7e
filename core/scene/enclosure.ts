import { type Phrase, quoted } from '../language/phrase.ts';
import { words } from '../language/sentence.ts';
import { wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';

/** Largest file that goes with a scene, in bytes. */
export const LARGEST_ENCLOSURE = 256 * 2 ** 20;

/** A file that goes with a scene: what it was called, and the name of its content in the store. */
export const enclosureSchema = z.object({
  name: z.string().max(300),
  bytes: z.object({
    hash: z.string().regex(/^[0-9a-f]{64}$/),
    type: z.literal('u8'),
    length: wholeNumber().min(1).max(LARGEST_ENCLOSURE),
  }),
});

export type Enclosure = z.infer<typeof enclosureSchema>;

/** All files that anything in a document encloses, each content once. */
export function enclosuresIn(document: unknown): Enclosure[] {
  const found = new Map<string, Enclosure>();
  const look = (value: unknown): void => {
    if (!value || typeof value !== 'object') return;
    const read = 'bytes' in value ? enclosureSchema.safeParse(value) : null;
    if (read?.success) found.set(read.data.bytes.hash, read.data);
    else for (const inner of Object.values(value)) look(inner);
  };
  look(document);
  return [...found.values()];
}

/** An enclosed file in full, `"dusk.hdr" of 123456 bytes, <hash>`; a reader is told its name. */
export function enclosurePhrase<O>(key: keyof O & string): Phrase<O> {
  return {
    say: (o, { exact }) => {
      const enclosure = o[key] as Enclosure | null;
      if (!enclosure) return null;
      const { name, bytes } = enclosure;
      return [words(exact ? `${JSON.stringify(name)} ${bytes.length} "${bytes.hash}"` : name)];
    },
    read(reader, into, setting) {
      const parts: { name?: string; hash?: string } = {};
      if (!quoted<typeof parts>('name').read(reader, parts, setting)) return false;
      const length = reader.number(null);
      if (length === undefined || !quoted<typeof parts>('hash').read(reader, parts, setting)) return false;
      const read = enclosureSchema.safeParse({
        name: parts.name,
        bytes: { hash: parts.hash, type: 'u8', length },
      });
      if (!read.success) return reader.miss('the name of its content');
      into[key] = read.data as O[keyof O & string];
      return true;
    },
  };
}
