import type { NumberArray } from '../../model/arrays.ts';
import type { FieldHeader } from '../../model/field.ts';
import { gridCellCount, gridCells } from '../cells/grid-cells.ts';
import type { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { OpenedMesh, OpenedRun } from '../format.ts';
import { latticePoints } from '../vtk-xml/vtk-xml-grids.ts';
import type { NetcdfFile, NetcdfVariable } from './netcdf-file.ts';
import { attributeText, cfValues, timeAxis, unitOf } from './netcdf-values.ts';

type Axis = 'x' | 'y' | 'z';

/** Which direction a coordinate variable gives, by its attributes and name (CF conventions). */
function axisOf(v: NetcdfVariable): Axis | null {
  const axis = attributeText(v, 'axis').toLowerCase();
  if (axis === 'x' || axis === 'y' || axis === 'z') return axis;
  const text = `${attributeText(v, 'standard_name')} ${attributeText(v, 'units')}`;
  if (/longitude|degrees_?east|projection_x/i.test(text) || /^(x|lon(gitude)?|easting)$/i.test(v.name))
    return 'x';
  if (/latitude|degrees_?north|projection_y/i.test(text) || /^(y|lat(itude)?|northing)$/i.test(v.name))
    return 'y';
  if (attributeText(v, 'positive') || /^(z|lev(el)?|depth|height|altitude)$/i.test(v.name)) return 'z';
  return null;
}

/** A grid with coordinates along its dimensions, or with one coordinate for each point. */
export function gridRun(file: NetcdfFile, findings: Findings): OpenedRun | null {
  const time = timeAxis(file);
  const axes: Partial<Record<Axis, NetcdfVariable>> = {};
  for (const v of file.variables.values()) {
    if (v.dimensions[0] === time?.dimension || v.shape.length === 0 || v.shape.length > 2) continue;
    const axis = axisOf(v);
    if (axis && !axes[axis]) axes[axis] = v;
  }
  if (!axes.x || !axes.y) return null;
  const curved = axes.x.shape.length === 2;
  const [yd, xd] = curved ? axes.x.dimensions : [axes.y.dimensions[0], axes.x.dimensions[0]];
  const zd = axes.z?.shape.length === 1 ? axes.z.dimensions[0] : null;
  const size = (d: string | null): number => (d === null ? 1 : file.dimensions[d]);
  const solids = new Map<string, { deep: boolean; variables: NetcdfVariable[] }>();
  for (const v of file.variables.values()) {
    const dims = v.dimensions.filter((d) => d !== time?.dimension);
    if (v === axes.x || v === axes.y || v === axes.z || v.dimensions.indexOf(time?.dimension ?? '') > 0)
      continue;
    const deep = zd !== null && dims.join() === [zd, yd, xd].join();
    if (!deep && dims.join() !== [yd, xd].join()) continue;
    const key = deep ? 'volume' : 'surface';
    const solid = solids.get(key) ?? { deep, variables: [] };
    solid.variables.push(v);
    solids.set(key, solid);
  }
  if (solids.size === 0) solids.set('surface', { deep: false, variables: [] });
  const parts = [...solids].map(([name, { deep, variables }]) => {
    const dims = [size(xd), size(yd), deep ? size(zd) : 1];
    const fields: FieldHeader[] = variables.map((v) => ({
      name: v.name,
      location: 'point',
      components: 1,
      unit: unitOf(v),
    }));
    const state = (step: number): OpenedMesh => ({
      points: dims[0] * dims[1] * dims[2],
      cells: gridCellCount(dims),
      fields,
      meshKey: name,
      readMesh: () => admitMesh({ points: points(file, axes, dims, curved), ...gridCells(dims) }, findings),
      readField: (i) =>
        cfValues(
          file,
          variables[i],
          variables[i].dimensions[0] === time?.dimension ? step : undefined,
        ) as NumberArray,
    });
    return { ...steadyPart(solids.size > 1 ? name : null, state(0)), at: state };
  });
  return openedRun(parts, {
    steps: time?.values ?? [null],
    timeUnit: time?.unit ?? null,
    lengthUnit: /^(m|km|mm|cm)$/.test(unitOf(axes.x) ?? '') ? unitOf(axes.x) : null,
    findings,
  });
}

function points(
  file: NetcdfFile,
  axes: Partial<Record<Axis, NetcdfVariable>>,
  dims: number[],
  curved: boolean,
): Float64Array {
  const x = cfValues(file, axes.x!);
  const y = cfValues(file, axes.y!);
  const z = dims[2] > 1 && axes.z ? cfValues(file, axes.z) : Float64Array.of(0);
  const down = attributeText(axes.z, 'positive').toLowerCase() === 'down' ? -1 : 1;
  return latticePoints(dims, (i, j, k, out, at) => {
    out[at] = x[curved ? j * dims[0] + i : i];
    out[at + 1] = y[curved ? j * dims[0] + i : j];
    out[at + 2] = down * z[k];
  });
}
