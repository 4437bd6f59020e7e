import { behindBracket } from '../../model/closing-bracket.ts';
import { literalPattern } from '../../model/literal-pattern.ts';
import { QUOTED } from '../../model/quoted-text.ts';
import { z } from '../../model/schema.ts';
import { type SetRule, setRuleSchema } from '../../model/set-rule.ts';

/** A part set as it was made in a scene. */
export interface NamedSet {
  name: string;
  rule: SetRule;
}

const namedSetSchema: z.ZodType<NamedSet> = z.object({ name: z.string(), rule: setRuleSchema });

const SET = String.raw`(?<set>\bset\s+)`;

const quoted = (name: string): string => `"${name.replace(/[\\"]/g, '\\$&')}"`;

/** Each set that is said with its rule, in another way; what stands between quotation marks is let be. */
function eachRule(sentence: string, said: (set: NamedSet) => string): string {
  const begins = new RegExp(`${QUOTED}|${SET}(?=\\{)`, 'giu');
  let out = '';
  let from = 0;
  for (let found = begins.exec(sentence); found; found = begins.exec(sentence)) {
    if (!found.groups?.set) continue;
    const begin = found.index + found[0].length;
    const end = behindBracket(sentence, begin, '{}');
    const read = end === null ? null : readSet(sentence.slice(begin, end));
    if (end === null || !read) continue;
    out += sentence.slice(from, begin) + said(read);
    begins.lastIndex = from = end;
  }
  return out + sentence.slice(from);
}

function readSet(json: string): NamedSet | null {
  try {
    return namedSetSchema.parse(JSON.parse(json));
  } catch {
    return null;
  }
}

/** A sentence that names sets by their names alone, with those that it said with their rules. */
export function setsOutOf(sentence: string): { sentence: string; sets: NamedSet[] } {
  const sets = new Map<string, NamedSet>();
  const named = eachRule(sentence, (set) => {
    sets.set(set.name, set);
    return /^[\p{L}\p{N}][\p{L}\p{N} _-]*$/u.test(set.name) ? set.name : quoted(set.name);
  });
  return { sentence: named, sets: [...sets.values()] };
}

/**
 * A sentence that says the rule of each of these sets behind "set", where it names one: it then holds without the scene the
 * sets were made in. Rules that it said already are put by those of now.
 */
export function withRulesOfSets(sentence: string, sets: readonly NamedSet[]): string {
  if (sets.length === 0) return sentence;
  const by = new Map(sets.map((set) => [set.name.toLowerCase(), set]));
  const { sentence: named, sets: said } = setsOutOf(sentence);
  for (const set of said) if (!by.has(set.name.toLowerCase())) by.set(set.name.toLowerCase(), set);
  const some = [...by.keys()]
    .sort((a, b) => b.length - a.length)
    .flatMap((name) => [literalPattern(quoted(name)), literalPattern(name)])
    .join('|');
  return named.replace(
    new RegExp(`${SET}(?<name>${some})(?![\\p{L}\\p{N}_])|${QUOTED}`, 'giu'),
    (found, ...rest) => {
      const { set, name } = rest.at(-1) as { set?: string; name?: string };
      if (set === undefined || name === undefined) return found;
      const plain = name.startsWith('"') ? name.slice(1, -1).replace(/\\(.)/g, '$1') : name;
      const known = by.get(plain.toLowerCase());
      return `${set}${JSON.stringify({ name: known!.name, rule: known!.rule })}`;
    },
  );
}
