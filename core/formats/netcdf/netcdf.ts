import { ReadError } from '../../model/read-error.ts';
import { Findings } from '../door/findings.ts';
import type { FileFormat } from '../format.ts';
import { exodusRun, isExodus } from './exodus.ts';
import { type NetcdfFile, openClassicNetcdf } from './netcdf-file.ts';
import { gridRun } from './netcdf-grid.ts';
import { meshTopology, topologyRun } from './netcdf-topology.ts';

const isClassic = (head: Uint8Array): boolean =>
  head[0] === 0x43 && head[1] === 0x44 && head[2] === 0x46 && [1, 2, 5].includes(head[3]);

/** NetCDF files of both generations: Exodus II, meshes with a topology variable, and CF grids. */
export const netcdf: FileFormat = {
  id: 'netcdf',
  name: 'NetCDF (Exodus II, UGRID meshes, CF grids)',
  extensions: ['.nc', '.exo', '.e', '.ex2', '.cdf'],
  manySteps: true,
  detect: isClassic,
  open: (source) => openNetcdfRun(openClassicNetcdf(source)),
};

export function openNetcdfRun(file: NetcdfFile) {
  const findings = new Findings();
  if (file.cut) findings.add(file.cut);
  if (isExodus(file)) return exodusRun(file, findings);
  const topology = meshTopology(file);
  if (topology) return topologyRun(file, topology, findings);
  const grid = gridRun(file, findings);
  if (grid) return grid;
  throw new ReadError(
    'the file holds no mesh: no element blocks, no mesh topology and no grid with coordinates',
    'variables',
    'Write the coordinates and, for a mesh, which nodes make its cells.',
  );
}
