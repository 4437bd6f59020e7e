import type { UnitsToWrite } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { StepKind } from '#core/model/run.ts';

/** A run of the bakery bench: computed by us, imported like any other. */
export interface DemoRun {
  /** Name of its folder. */
  id: string;
  /** Name of the run. */
  name: string;
  /** What is imported, within its folder. It is written last: where it stands, the run is whole. */
  file: string;
  /** Whether it is a table of many runs, which are brought in as a set. */
  asSet?: boolean;
  /** What the files cannot tell; see the import. */
  choices?: {
    timeUnit?: string;
    lengthUnit?: string;
    units?: Record<string, string>;
    stepKind?: StepKind;
    frames?: Record<string, { point: number[]; axis: number[]; rate: number }>;
  };
  /**
   * Computes it.
   *
   * @param write keeps a file in its folder
   * @param progress told of the share that is done
   */
  compute(
    write: (name: string, content: string | Uint8Array) => void,
    progress: (done: number) => void,
  ): void;
}

/** Lengths in metres, times in seconds. */
export const SI: UnitsToWrite = { length: 'm', time: 's' };
