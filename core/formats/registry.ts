import { ReadError } from '../model/read-error.ts';
import type { TableReading } from '../model/table-reading.ts';
import { atomDump } from './atoms/atom-dump.ts';
import { extendedXyz } from './atoms/extended-xyz.ts';
import { type ByteSource, memorySource } from './bytes/byte-source.ts';
import { throughTheDoor } from './door/opened-door.ts';
import type { FileFormat, Opened, ReadTools } from './format.ts';
import { frd } from './frd/frd.ts';
import { msh } from './msh/msh.ts';
import { adfCgns, inputDeck, solverListing } from './named-refusals.ts';
import { hdf5 } from './netcdf/hdf5.ts';
import { netcdf } from './netcdf/netcdf.ts';
import { picture, worldFileFormat } from './pictures/picture.ts';
import { portableTools } from './portable-tools.ts';
import { gltf } from './surfaces/gltf.ts';
import { obj } from './surfaces/obj.ts';
import { ply } from './surfaces/ply.ts';
import { stl } from './surfaces/stl.ts';
import { table } from './tables/table.ts';
import { volumeCase, volumeCaseFile } from './volume-case/volume-case.ts';
import { vtkLegacy } from './vtk-legacy/vtk-legacy.ts';
import { vtkXmlGrids } from './vtk-xml/vtk-xml-grids.ts';
import { seriesJson, vtkXmlCollection, vtkXmlMultiBlock, vtkXmlParallel } from './vtk-xml/vtk-xml-lists.ts';
import { vtkXmlPoly } from './vtk-xml/vtk-xml-poly.ts';
import { vtkXmlUnstructured } from './vtk-xml/vtk-xml-unstructured.ts';
import { xdmf } from './xdmf/xdmf.ts';

/**
 * Every format that can be read. A new one is a file beside this and a line here. The first that recognises a file
 * takes it, so what is told by plain text alone stands at the end.
 */
export const formats: readonly FileFormat[] = [
  vtkXmlUnstructured,
  vtkXmlPoly,
  vtkXmlGrids,
  vtkXmlParallel,
  vtkXmlMultiBlock,
  vtkXmlCollection,
  seriesJson,
  vtkLegacy,
  xdmf,
  hdf5,
  netcdf,
  msh,
  frd,
  volumeCase,
  volumeCaseFile,
  gltf,
  ply,
  atomDump,
  obj,
  extendedXyz,
  picture,
  worldFileFormat,
  stl,
  adfCgns,
  inputDeck,
  solverListing,
  table,
];

/**
 * The format of a file by its first kilobytes.
 *
 * @throws ReadError when no format recognises it
 */
export function detectFormat(head: Uint8Array, name = ''): FileFormat {
  const found = formats.find((f) => f.detect(head, name));
  if (found) return found;
  throw new ReadError(
    'the content is of no known format',
    'first bytes of the file',
    'Read are result files, surfaces, tables, atoms and pictures, listed in docs/formats.md. Leave this file out, or write it in one of those.',
  );
}

/**
 * Opens a file by its content.
 *
 * @throws ReadError when no format recognises it or the format finds it damaged
 */
export async function openSource(
  source: ByteSource,
  tools: ReadTools = portableTools,
  reading?: TableReading,
): Promise<Opened> {
  if (source.length === 0) throw new ReadError('the file is empty', 'byte 0', 'Copy or write it again.');
  const format = detectFormat(source.read(0, 65536), tools.name);
  return throughTheDoor(format, () => format.open(source, tools, reading));
}

/** Opens a file in memory with portable tools. */
export const openFile = (bytes: Uint8Array, name = 'file', reading?: TableReading): Promise<Opened> =>
  openSource(memorySource(bytes), { ...portableTools, name }, reading);
