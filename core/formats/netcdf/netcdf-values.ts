import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import type { NetcdfFile, NetcdfVariable } from './netcdf-file.ts';

const timeUnits: Record<string, string> = byName({
  seconds: 's',
  second: 's',
  sec: 's',
  s: 's',
  minutes: 'min',
  minute: 'min',
  min: 'min',
  hours: 'h',
  hour: 'h',
  hr: 'h',
  h: 'h',
  days: 'd',
  day: 'd',
  d: 'd',
});

const attributeText = (v: NetcdfVariable | undefined, name: string): string => {
  const value = v?.attributes[name];
  return typeof value === 'string' ? value : '';
};

/** The variable that holds the times, its values and their unit; "hours since 2026-01-01" counts in hours. */
export function timeAxis(
  file: NetcdfFile,
): { dimension: string; values: number[]; unit: string | null } | null {
  for (const v of file.variables.values()) {
    if (v.shape.length !== 1) continue;
    const units = attributeText(v, 'units');
    const since = /^\s*(\w+)\s+since\b/i.exec(units);
    const named = /^time$|^t$/i.test(v.name) && v.dimensions[0] === v.name;
    const standard = attributeText(v, 'standard_name') === 'time' || attributeText(v, 'axis') === 'T';
    if (!since && !named && !standard && v.name !== 'time') continue;
    const word = (since?.[1] ?? units).toLowerCase();
    return {
      dimension: v.dimensions[0],
      values: Array.from(file.read(v.name)),
      unit: timeUnits[word] ?? (units && !since ? units : null),
    };
  }
  // A dimension of times without their values: steps are counted.
  for (const [dimension, length] of Object.entries(file.dimensions)) {
    if (/^(time|ocean_time|t)$/i.test(dimension) && length > 0)
      return {
        dimension,
        values: Array.from({ length: Math.min(length, mostSteps(file, dimension)) }, (_, i) => i),
        unit: null,
      };
  }
  return null;
}

/** Steps of a dimension without values: no more than some variable has entries for. */
function mostSteps(file: NetcdfFile, dimension: string): number {
  const used = [...file.variables.values()].filter((v) => v.dimensions.includes(dimension));
  return used.length === 0 ? 0 : 1_000_000;
}

/** Values with fill values as NaN and packed numbers unpacked, as the CF conventions ask. */
export function cfValues(file: NetcdfFile, v: NetcdfVariable, record?: number): NumberArray {
  const raw = file.read(v.name, record);
  const number = (name: string): number | null => {
    const value = v.attributes[name];
    return typeof value === 'number' ? value : null;
  };
  const fills = [number('_FillValue'), number('missing_value')].filter((f) => f !== null);
  const scale = number('scale_factor') ?? 1;
  const offset = number('add_offset') ?? 0;
  if (fills.length === 0 && scale === 1 && offset === 0) return raw;
  const out =
    raw instanceof Float32Array && scale === 1 && offset === 0
      ? new Float32Array(raw.length)
      : new Float64Array(raw.length);
  for (let i = 0; i < raw.length; i++) out[i] = fills.includes(raw[i]) ? Number.NaN : raw[i] * scale + offset;
  return out;
}

export const unitOf = (v: NetcdfVariable): string | null => attributeText(v, 'units') || null;
export { attributeText };
