import { benchGeometry } from './geometry.ts';
import { benchPlaying } from './playing.ts';
import { benchReading } from './reading.ts';

console.log('Dresser benchmarks: ours, the yardstick beside it in the same run, and their ratio\n');
await benchReading();
benchGeometry();
await benchPlaying();
