import { addFieldsJob } from './add-fields.ts';
import { arrangeJob } from './arrange.ts';
import { batchJob } from './batch.ts';
import { filmJob } from './film.ts';
import { importJob } from './import.ts';
import { newStepsJob } from './new-steps.ts';
import { picturesJob } from './pictures.ts';
import { previewJob } from './preview.ts';
import { jobs } from './queue.ts';
import { rangeJob } from './range.ts';
import { seeJob } from './see.ts';
import { stateFrameJob } from './state-frame.ts';

/** Every kind of long work; a new one is a file beside this and a line here. */
for (const kind of [
  previewJob,
  arrangeJob,
  importJob,
  rangeJob,
  newStepsJob,
  addFieldsJob,
  stateFrameJob,
  picturesJob,
  filmJob,
  batchJob,
  seeJob,
])
  jobs.register(kind as never);

export { jobs };
