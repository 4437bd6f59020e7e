import { ReadError } from '../../model/read-error.ts';
import { cgnsRun, isCgns } from '../cgns/cgns.ts';
import type { FileFormat } from '../format.ts';
import { openNetcdfRun } from './netcdf.ts';
import { openNetcdf4 } from './netcdf-file.ts';

const MARK = [0x89, 0x48, 0x44, 0x46, 0x0d, 0x0a, 0x1a, 0x0a];

/** HDF5 containers: CGNS and NetCDF-4. The HDF5 files of an XDMF file are opened through that. */
export const hdf5: FileFormat = {
  id: 'hdf5',
  name: 'CGNS or NetCDF-4 (HDF5)',
  extensions: ['.cgns', '.nc4', '.h5'],
  manySteps: true,
  detect: (head) => MARK.every((b, i) => head[i] === b),
  async open(source, tools) {
    const file = await tools.hierarchy(source);
    if (isCgns(file)) return cgnsRun(file);
    const named = file
      .list('/')
      .some((n) => file.kind(n) === 'array' && file.attribute(n, 'CLASS') === 'DIMENSION_SCALE');
    if (named || file.attribute('/', '_NCProperties') !== null) return openNetcdfRun(openNetcdf4(file));
    throw new ReadError(
      'the HDF5 file is neither CGNS nor NetCDF-4',
      'groups of the file',
      'If it belongs to an XDMF file, bring in both together.',
    );
  },
};
