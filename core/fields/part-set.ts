import { cellCount } from '../model/mesh.ts';
import { replayAll } from '../model/recipe.ts';
import type { SetRule } from '../model/set-rule.ts';
import { pointsToCells } from './averages.ts';
import {
  fieldColumn,
  fieldsOfCondition,
  type KnownField,
  type NamedField,
  whereCondition,
} from './condition.ts';
import type { FieldsOnMesh } from './fields-on-mesh.ts';
import { changesWithSteps } from './quantity-sources.ts';
import { setQuantity } from './sources/part-set.ts';
import type { FieldNeed } from './sources/quantity-source.ts';

type FieldNames = readonly KnownField[];

const stepOf = (when: 'each step' | number): number | null => (when === 'each step' ? null : when);

/** The fields a rule reads; sets of the files count as fields of 0 and 1. */
export function needsOfRule(rule: SetRule, fields: FieldNames, sets: readonly string[]): FieldNeed[] {
  switch (rule.kind) {
    case 'group':
      return [{ field: setQuantity(rule.name) }];
    case 'range':
      return [{ field: rule.field, step: stepOf(rule.when) }];
    case 'condition':
      return Object.values(namesOf(rule, fields, sets)).map(({ need }) => need);
    case 'union':
    case 'intersection':
    case 'difference':
    case 'complement':
      return rule.of.flatMap((r) => needsOfRule(r, fields, sets));
    default:
      return [];
  }
}

function namesOf(
  rule: SetRule & { kind: 'condition' },
  fields: FieldNames,
  sets: readonly string[],
): Record<string, NamedField> {
  const names = fieldsOfCondition(rule.condition, fields, sets);
  return Object.fromEntries(
    [...names].map(([name, n]) => [
      name,
      { ...n, need: changesWithSteps(n.need.field) ? { ...n.need, step: stepOf(rule.when) } : n.need },
    ]),
  );
}

/** Which cells of a part belong to a set, 1 or 0 each. */
export function cellsOfRule(
  rule: SetRule,
  input: FieldsOnMesh,
  fields: FieldNames,
  sets: readonly string[],
): Uint8Array {
  const n = cellCount(input.mesh);
  const each = (r: SetRule): Uint8Array => cellsOfRule(r, input, fields, sets);
  const filled = (v: number): Uint8Array => new Uint8Array(n).fill(v);
  switch (rule.kind) {
    case 'parts':
      return filled(Number(rule.parts.includes(input.part)));
    case 'group': {
      const field = input.field({ field: setQuantity(rule.name) });
      return field ? Uint8Array.from(field.data, (v) => Number(v > 0)) : filled(0);
    }
    case 'cells': {
      const out = filled(0);
      for (const c of rule.cells[input.part] ?? []) if (c < n) out[c] = 1;
      return out;
    }
    case 'box': {
      const centres = replayAll(pointsToCells(input.mesh), input.mesh.points, 3);
      return Uint8Array.from({ length: n }, (_, c) =>
        Number(
          [0, 1, 2].every((k) => {
            const v = centres[3 * c + k] + input.origin[k];
            return v >= Math.min(rule.low[k], rule.high[k]) && v <= Math.max(rule.low[k], rule.high[k]);
          }),
        ),
      );
    }
    case 'region':
      return rule.part === input.part && rule.cell < n ? connectedTo(input, rule.cell) : filled(0);
    case 'range': {
      const field = input.field({ field: rule.field, step: stepOf(rule.when) });
      if (!field) return filled(0);
      const values = fieldColumn(field, rule.component, input.mesh, 'cells');
      return Uint8Array.from(values, (v) => Number(v >= rule.low && v <= rule.high));
    }
    case 'condition':
      return Uint8Array.from(
        whereCondition(input, rule.condition, namesOf(rule, fields, sets), 'cells'),
        (v) => Number(v !== 0),
      );
    case 'complement':
      return each(rule.of[0]).map((v) => 1 - v);
    default: {
      const [first, ...rest] = rule.of.map(each);
      if (!first) return filled(0);
      return first.map((v, c) => {
        if (rule.kind === 'union') return Number(v === 1 || rest.some((r) => r[c] === 1));
        if (rule.kind === 'intersection') return Number(v === 1 && rest.every((r) => r[c] === 1));
        return Number(v === 1 && rest.every((r) => r[c] === 0));
      });
    }
  }
}

/** The cells that hang together with one through shared points. */
function connectedTo({ mesh }: FieldsOnMesh, cell: number): Uint8Array {
  const { offsets, connectivity } = mesh;
  const around = new Uint32Array(mesh.points.length / 3 + 1);
  for (let i = 0; i < connectivity.length; i++) around[connectivity[i] + 1]++;
  for (let p = 1; p < around.length; p++) around[p] += around[p - 1];
  const cells = new Uint32Array(connectivity.length);
  const fill = around.slice();
  for (let c = 0; c < cellCount(mesh); c++)
    for (let i = offsets[c]; i < offsets[c + 1]; i++) cells[fill[connectivity[i]]++] = c;
  const out = new Uint8Array(cellCount(mesh));
  const open = [cell];
  out[cell] = 1;
  for (let c = open.pop(); c !== undefined; c = open.pop())
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const p = connectivity[i];
      for (let k = around[p]; k < around[p + 1]; k++) {
        if (out[cells[k]]) continue;
        out[cells[k]] = 1;
        open.push(cells[k]);
      }
    }
  return out;
}

/** A rule in words. */
export function sayRule(
  rule: SetRule,
  nameOf: (field: string, component: number | 'magnitude') => string,
): string {
  const inner = (r: SetRule): string => ('of' in r ? `(${sayRule(r, nameOf)})` : sayRule(r, nameOf));
  const when = (w: 'each step' | number): string =>
    w === 'each step' ? 'at each step' : `as at step ${w + 1}`;
  switch (rule.kind) {
    case 'parts':
      return rule.parts.join(', ');
    case 'group':
      return rule.name;
    case 'box':
      return `the box (${rule.low.join(', ')}) to (${rule.high.join(', ')})`;
    case 'cells': {
      const count = Object.values(rule.cells).reduce((n, c) => n + c.length, 0);
      return `${count} cells`;
    }
    case 'region':
      return `what hangs together with cell ${rule.cell} of ${rule.part}`;
    case 'range':
      return `${nameOf(rule.field, rule.component)} between ${rule.low} and ${rule.high}, ${when(rule.when)}`;
    case 'condition':
      return `where “${rule.condition}”, ${when(rule.when)}`;
    case 'complement':
      return `all but ${inner(rule.of[0])}`;
    case 'union':
      return rule.of.map(inner).join(' or ');
    case 'intersection':
      return rule.of.map(inner).join(' and ');
    case 'difference':
      return rule.of.map(inner).join(' without ');
  }
}
