import { ReadError } from '../model/read-error.ts';
import type { FileFormat } from './format.ts';

const decoder = new TextDecoder();

/** CGNS in its older form; the first bytes are those of the ADF database (from memory). */
export const adfCgns: FileFormat = {
  id: 'cgns-adf',
  name: 'CGNS in the ADF form',
  extensions: [],
  detect: (head) => /^@\(#\)ADF Database/.test(decoder.decode(head.subarray(0, 32))),
  open() {
    throw new ReadError(
      'this is CGNS in its older ADF form, which is not read',
      'first bytes of the file',
      'Convert it to the HDF5 form with the tools of the CGNS library, or have the solver write that form.',
    );
  },
};

/** Lines that begin a section of an input deck: a keyword behind a star, or a card of bulk data. Common practice, no source. */
const keyword =
  /^(\*[A-Za-z][\w ]*(,.*)?|(GRID|CTETRA|CHEXA|CPENTA|CQUAD4|CTRIA3|PSOLID|PSHELL|MAT1|BEGIN BULK|ENDDATA)\b.*)$/;

/** What a solver was told, not what it found: its text holds tables of nodes, but no result. */
export const inputDeck: FileFormat = {
  id: 'input-deck',
  name: 'input deck of a solver',
  extensions: [],
  detect(head) {
    if (head.includes(0)) return false;
    const lines = decoder.decode(head).split(/\r?\n/);
    return lines.filter((line) => line.length < 400 && keyword.test(line)).length >= 2;
  },
  open() {
    throw new ReadError(
      'this is the input deck of a solver, not a result',
      'first lines of the file',
      'Leave it out, and bring in the results the solver wrote.',
    );
  },
};

/** A log or listing: prose and numbers mixed, with words a solver says of its own work. Common practice, no source. */
export const solverListing: FileFormat = {
  id: 'solver-listing',
  name: 'listing of a solver',
  extensions: [],
  detect(head) {
    if (head.includes(0)) return false;
    const lines = decoder
      .decode(head)
      .split(/\r?\n/)
      .filter((line) => line.trim() !== '');
    const words = lines.filter((line) => (line.match(/[A-Za-z]{3,}/g) ?? []).length >= 3).length;
    const says = lines.some((line) =>
      /\b(iteration|residual|converge(d|nce)|elapsed|cpu time|wall time|job (started|completed)|increment)\b/i.test(
        line,
      ),
    );
    return says && lines.length >= 5 && words > 0.3 * lines.length;
  },
  open() {
    throw new ReadError(
      'this is the listing of a solver, not a table of results',
      'first lines of the file',
      'Leave it out, or cut the table out of it into a file of its own.',
    );
  },
};
