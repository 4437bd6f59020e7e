import { benchBatch, benchBatchMemory } from './batch.ts';
import { benchCurves } from './curves.ts';
import { benchDressing } from './dressing.ts';
import { benchFilm } from './film.ts';
import { benchFilmMemory } from './film-memory.ts';
import { benchFormula } from './formula.ts';
import { benchGeometry } from './geometry.ts';
import { benchImpostors } from './impostors.ts';
import { benchLight } from './light.ts';
import { benchManyLines } from './many-lines.ts';
import { benchManyTriangles } from './many-triangles.ts';
import { benchPanes } from './panes.ts';
import { benchPlaying } from './playing.ts';
import { benchReading } from './reading.ts';
import { benchTraced } from './traced.ts';
import { benchTracing } from './tracing.ts';
import { benchWaiting } from './waiting.ts';

const benches = {
  reading: benchReading,
  geometry: benchGeometry,
  formula: benchFormula,
  curves: benchCurves,
  tracing: benchTracing,
  playing: benchPlaying,
  light: benchLight,
  film: benchFilm,
  'film-memory': benchFilmMemory,
  batch: benchBatch,
  'batch-memory': benchBatchMemory,
  panes: benchPanes,
  dressing: benchDressing,
  traced: benchTraced,
  'many-lines': benchManyLines,
  'many-triangles': benchManyTriangles,
  impostors: benchImpostors,
  waiting: benchWaiting,
};

// `npm run bench -- --light` runs one of them alone.
const asked = Object.keys(benches).filter((name) => process.argv.includes(`--${name}`));
console.log('Dresser benchmarks: ours, the yardstick beside it in the same run, and their ratio\n');
for (const [name, bench] of Object.entries(benches))
  if (asked.length === 0 || asked.includes(name)) await bench();
