import type { Phrase } from '../../language/phrase.ts';
import { quote } from '../../language/sentence.ts';
import type { Finish, FinishValues } from '../../light/finish.ts';
import { finishValuesSchema } from '../../light/finish.ts';
import { finishById, finishes } from '../../light/finishes/registry.ts';
import { type FinishOf, nameOfFinish, type OwnFinish, ownLike } from '../../light/own-finish.ts';

/** The finish that an own one is nearest to, and what of it is otherwise. */
function nearest(own: OwnFinish): { base: Finish; changes: [keyof FinishValues, unknown][] } {
  const keys = Object.keys(finishValuesSchema.shape) as (keyof FinishValues)[];
  const apart = (base: Finish): [keyof FinishValues, unknown][] =>
    keys.filter((key) => base[key] !== own[key]).map((key) => [key, own[key]]);
  return finishes
    .map((base) => ({ base, changes: apart(base) }))
    .reduce((best, one) => (one.changes.length < best.changes.length ? one : best));
}

/** `as oiled oak`; one of one's own in full as `as "my oak" like oiled oak (roughness 0.3, grain 4)`. */
export const finishPhrase: Phrase<{ finish: FinishOf }> = {
  say({ finish }, { exact }) {
    if (finish === null) return null;
    const name = { text: nameOfFinish(finish), control: { kind: 'finish' as const } };
    if (!exact) return [{ text: 'as ' }, name];
    if (typeof finish === 'string') {
      const known = finishById(finish);
      return [{ text: 'as ' }, known ? name : { text: quote(finish) }];
    }
    const { base, changes } = nearest(finish);
    const said = changes.map(([key, value]) => `${key} ${JSON.stringify(value)}`);
    const rest = said.length > 0 ? ` (${said.join(', ')})` : '';
    return [{ text: `as ${quote(finish.name)} like ` }, { ...name, text: base.name }, { text: rest }];
  },
  read(reader, into) {
    if (!reader.words('as')) return false;
    const own = reader.first([() => reader.quoted() ?? undefined]);
    if (own !== undefined && !reader.first([() => reader.words('like')])) {
      into.finish = own;
      return true;
    }
    const base = reader.name(finishes.map((f) => ({ text: f.name, value: f.id })));
    if (base === undefined) return false;
    if (own === undefined) {
      into.finish = base;
      return true;
    }
    const changes = reader.first([() => readChanges(reader)]) ?? {};
    const made = { ...ownLike(finishById(base)!, own), ...changes };
    if (!finishValuesSchema.safeParse(made).success) return false;
    into.finish = made;
    return true;
  },
};

function readChanges(reader: Parameters<Phrase<object>['read']>[0]): Partial<FinishValues> | undefined {
  if (!reader.words('(')) return undefined;
  const keys = Object.keys(finishValuesSchema.shape).map((key) => ({ text: key, value: key }));
  const found: Record<string, unknown> = {};
  do {
    const key = reader.name(keys);
    if (key === undefined) return undefined;
    const value = reader.first<unknown>([
      () => reader.quoted() ?? undefined,
      () => (reader.words('null') ? { none: true } : undefined),
      () => reader.number(null),
    ]);
    if (value === undefined) return undefined;
    found[key] = typeof value === 'object' ? null : value;
  } while (reader.first([() => reader.words(',')]));
  return reader.words(')') ? found : undefined;
}
