import { benchGeometry } from './geometry.ts';
import { benchPlaying } from './playing.ts';
import { benchReading } from './reading.ts';

console.log('Dresser benchmarks: ours, the yardstick beside it in the same run, and their ratio\n');
if (!process.argv.includes('--geometry')) await benchReading();
benchGeometry();
if (!process.argv.includes('--geometry')) await benchPlaying();
