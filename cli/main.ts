import { Command, InvalidArgumentError, Option } from 'commander';
import { BATCH_LOG } from '#core/batch/batch-log.ts';
import { USUAL_NAMES } from '#core/batch/batch-names.ts';
import { writers } from '#core/formats/writer.ts';
import { LARGEST_SIDE } from '#core/model/largest-side.ts';
import { PROGRAM_VERSION } from '#core/model/program-version.ts';
import { type FilmQuality, filmQualitySchema } from '#core/motion/film-quality.ts';
import { severities } from '#core/preflight/rule.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { RUNS_TABLE } from '#core/sets/made-rows.ts';
import { batchScenes } from './batch.ts';
import { convertFiles } from './convert.ts';
import { filmScene } from './film.ts';
import { inspectFiles } from './inspect.ts';
import { measureFiles } from './measure.ts';
import { preflightScene } from './preflight.ts';
import { readSentences } from './read.ts';
import { renderScene } from './render.ts';
import { writeReport } from './report.ts';
import { readUnit, type StatedUnit } from './stated-units.ts';
import { traceLines } from './trace.ts';
import { watchFolder } from './watch.ts';

const program = new Command('dresser')
  .description('Presentation-quality scenes from finished solver results')
  .version(PROGRAM_VERSION);

program
  .command('inspect')
  .description('say what result files hold')
  .argument('<files...>', 'result files, folders or archives; numbered files become one run')
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async (files: string[], options: { json?: boolean }) => {
    process.exitCode = await inspectFiles(files, options.json ?? false);
  });

program
  .command('convert')
  .description('write result files in another format')
  .argument('<files...>', 'result files, folders or archives')
  .requiredOption('--to <format>', `one of ${writers.map((w) => w.id).join(', ')}`)
  .option('--out <folder>', 'folder for the new files', '.')
  .option('--steps <a:b:n>', 'steps from a to b, every n-th, counted from 1', parseSteps)
  .action(async (files: string[], options) => {
    const { to, out, steps } = options;
    process.exitCode = await convertFiles(files, { to, out, steps: steps ?? null });
  });

program
  .command('render')
  .description('render the steps of a scene as pictures, or give them out as bodies')
  .argument(
    '[scene]',
    'a saved scene (JSON), a script of sentences, or "default" for the scene the run would open with',
    'default',
  )
  .requiredOption('--run <files...>', 'the result files of the run')
  .requiredOption('--out <folder>', 'folder for the pictures')
  .option('--units <units...>', 'where the files state none: time=s length=m "T=°C"', gatheredUnits)
  .option('--size <WxH>', 'size in pixels', parseSize, { width: 1920, height: 1080 })
  .option(
    '--steps <a:b:n>',
    'steps from a to b, every n-th, counted from 1; without it the step of the scene',
    parseSteps,
  )
  .option(
    '--cycle <count>',
    'so many pictures over one cycle of what swings, sweeps or travels, at each step',
    parseCount,
  )
  .option('--passes <count>', 'passes of light a picture', Number, 48)
  .option(
    '--as <format>',
    'format of the files, such as png16, tiff, exr or glb; a wrong one lists all',
    'png',
  )
  .option('--layers', 'each picture taken apart, in a zip: colours, shadow, depth, normals, bodies, words')
  .option('--transparent', 'transparent background')
  .option('--say <sentences...>', 'lines as sentences: added to the scene, or in place of the default lines')
  .option('--look <name>', `put on a look: ${shippedLooks.map((l) => `"${l.name}"`).join(', ')}`, parseLook)
  .action(async (scene: string, options) => {
    process.exitCode = await renderScene(scene, options);
  });

program
  .command('preflight')
  .description('say what should be known of the pictures of a scene before they leave the house')
  .argument('[scene]', 'as for render', 'default')
  .requiredOption('--run <files...>', 'the result files of the run')
  .option('--units <units...>', 'as for render', gatheredUnits)
  .option('--size <WxH>', 'size of the picture in pixels', parseSize, { width: 1920, height: 1080 })
  .option('--steps <a:b:n>', 'as for render', parseSteps)
  .option('--say <sentences...>', 'lines as sentences, as for render')
  .option('--look <name>', 'put on a look, as for render', parseLook)
  .addOption(
    new Option('--least <severity>', 'what counts for the exit code')
      .choices([...severities])
      .default('moderate'),
  )
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async (scene: string, options) => {
    process.exitCode = await preflightScene(scene, options);
  });

program
  .command('film')
  .description('make the film of a scene: what its lanes say, or the results once where nothing moves')
  .argument('[scene]', 'as for render', 'default')
  .requiredOption('--run <files...>', 'the result files of the run')
  .requiredOption('--out <files...>', 'files of the film, all of one drawing: .mp4, .webm, .gif, .png, .zip')
  .option('--units <units...>', 'as for render', gatheredUnits)
  .option('--size <WxH>', 'size in pixels', parseSize, { width: 1920, height: 1080 })
  .option('--rate <number>', 'pictures a second; without it as the scene says', parsePositive)
  .option('--from <seconds>', 'from when on, in seconds of the film', parseSeconds)
  .option('--to <seconds>', 'until when', parseSeconds)
  .option('--quality <quality>', 'small, good or best, or so many bits a second', parseQuality, 'good')
  .option('--passes <count>', 'passes of light a picture', parseCount, 20)
  .option(
    '--as <format>',
    'format where the ending does not tell, such as hevc or av1; a wrong one lists all',
  )
  .option('--pictures <format>', 'format of the numbered pictures in a .zip: png, jpeg, tiff, exr ...', 'png')
  .option('--say <sentences...>', 'lines as sentences, as for render')
  .option('--move <sentences...>', 'motions in plain words, for example "turntable"')
  .option('--look <name>', 'put on a look, as for render', parseLook)
  .action(async (scene: string, options) => {
    process.exitCode = await filmScene(scene, options);
  });

/** Of what is made of every run, alike for commands that make it. */
const withPictureOptions = (command: Command, scales: 'shared' | 'kept'): Command =>
  command
    .option('--name <template>', 'names of the files, with values in braces', USUAL_NAMES)
    .option('--size <WxH...>', 'sizes in pixels; each picture is drawn in all of them', gatheredSizes)
    .option('--format <formats...>', 'formats of one drawing, such as png jpeg tiff exr', ['png'])
    .option('--film <formats...>', 'also films of shots in which something moves, such as mp4 webm gif', [])
    .option(
      '--steps <words>',
      'steps in words: "as kept", "the last", "every 5th", "nearest to 10, 20 s"',
      'as kept',
    )
    .option('--look <names...>', 'looks; each picture is drawn in all of them', [])
    .addOption(
      new Option(
        '--scales <wish>',
        'where colour scales end: shared by all runs, kept as in the first, each its own',
      )
        .choices(['shared', 'kept', 'each'])
        .default(scales),
    )
    .option('--passes <count>', 'passes of light a picture', parseCount, 48)
    .option('--transparent', 'transparent background')
    .option('--pattern <names>', 'parameters out of the names of runs, for example "oven_{fan}rpm_{vent}"')
    .option('--mean <asked=meant...>', 'what is meant in runs that lack a field or part', gatheredMeant)
    .option('--units <units...>', 'as for render', gatheredUnits)
    .option('--title <words>', 'what the runs are together, as a report is headed', 'All runs')
    .option('--again', 'make what is current again as well');

const USUAL_SIZE = { width: 1920, height: 1080 };

withPictureOptions(
  program
    .command('batch')
    .description(
      'make pictures of scenes of many runs, each once; what is current in the folder is left alone',
    )
    .argument('<shots...>', 'scenes as for render: each is a shot that is made of every run')
    .requiredOption('--runs <files...>', 'result files, folders, or tables (CSV) that name them')
    .requiredOption(
      '--out <folder>',
      `folder for the pictures, their log, ${BATCH_LOG}, and the table of the runs, ${RUNS_TABLE}`,
    ),
  'shared',
)
  .option('--report <files...>', 'also write the pictures with their runs and what failed as .pdf or .pptx')
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async (shots: string[], { size = [USUAL_SIZE], ...options }) => {
    process.exitCode = await batchScenes(shots, { ...options, size });
  });

withPictureOptions(
  program
    .command('watch')
    .description('watch a folder, and make pictures of every run in it once its files are whole')
    .argument('<folder>', 'folder that results are written to: each file and each folder in it is a run')
    .requiredOption('--shots <scenes...>', 'scenes as for batch')
    .requiredOption(
      '--out <folder>',
      `folder for the pictures, their log, ${BATCH_LOG}, and the table of the runs, ${RUNS_TABLE}`,
    ),
  'kept',
)
  .option('--rest <seconds>', 'files are whole when they have not changed for so long', parseSeconds, 10)
  .option(
    '--mark <name>',
    'they are whole when such a file lies beside them; one that begins with a dot stands behind each name',
  )
  .option('--until <runs>', 'end when so many runs came in', parseCount)
  .action(async (folder: string, { size = [USUAL_SIZE], ...options }) => {
    process.exitCode = await watchFolder(folder, { ...options, size });
  });

program
  .command('report')
  .description('write a report that was put together on the desk, of the runs that are given')
  .argument('<report>', 'report file, saved on the Report desk')
  .requiredOption(
    '--run <files...>',
    'result files of the runs; each scene finds its run by name, or takes the only one',
  )
  .requiredOption(
    '--out <files...>',
    'files to write: .html, .pdf, .pptx, .docx, or .zip for Markdown with its pictures',
  )
  .option('--units <units...>', 'as for render', gatheredUnits)
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async (report: string, options) => {
    process.exitCode = await writeReport(report, options);
  });

program
  .command('read')
  .description('say how sentences are understood on a run, without a picture')
  .requiredOption('--run <files...>', 'the result files of the run')
  .requiredOption('--say <sentence>', 'a line as a sentence; can be given again', gathered, [] as string[])
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async ({ run, say, json }: { run: string[]; say: string[]; json?: boolean }) => {
    process.exitCode = await readSentences(run, say, json ?? false);
  });

program
  .command('trace')
  .description('follow lines through a flow and say where each ends')
  .argument('<files...>', 'the result files of the run')
  .requiredOption(
    '--say <sentence>',
    'the lines as a sentence, for example "streamlines of velocity from point (0, 0, 0)"',
  )
  .option('--step <number>', 'step of the run, counted from 1; without it the one the run opens with', Number)
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async (files: string[], { say, step, json }: { say: string; step?: number; json?: boolean }) => {
    process.exitCode = await traceLines(files, say, step ?? null, json ?? false);
  });

program
  .command('measure')
  .description('answer questions about a run with numbers')
  .argument('<files...>', 'the result files of the run')
  .requiredOption(
    '--ask <sentence>',
    'what is asked, for example "average of T over everything"; can be given again',
    gathered,
    [] as string[],
  )
  .option(
    '--quantity <name = formula>',
    'a quantity to ask for, for example "excess = T - 20 °C"; can be given again',
    gathered,
    [] as string[],
  )
  .option(
    '--beside <file>',
    'a result file of another run, for formulas such as in_run("name", T); can be given again',
    gathered,
    [] as string[],
  )
  .option('--steps <a:b:n>', 'steps from a to b, every n-th, counted from 1; without it all', parseSteps)
  .option('--json', 'print one JSON object, as described in docs/cli.md')
  .action(async (files: string[], options) => {
    const { ask, quantity, beside, steps, json } = options;
    process.exitCode = await measureFiles(files, { ask, quantity, beside }, steps ?? null, json ?? false);
  });

function gathered(text: string, before: string[]): string[] {
  return [...before, text];
}

function gatheredUnits(text: string, before: StatedUnit[] = []): StatedUnit[] {
  const unit = readUnit(text);
  if (!unit) throw new InvalidArgumentError('Write what it is the unit of, as in time=s or "T=°C".');
  return [...before, unit];
}

function gatheredSizes(
  text: string,
  before: { width: number; height: number }[] = [],
): { width: number; height: number }[] {
  return [...before, parseSize(text)];
}

function gatheredMeant(
  text: string,
  before: { asked: string; meant: string }[] = [],
): { asked: string; meant: string }[] {
  const at = text.indexOf('=');
  const [asked, meant] = [text.slice(0, at).trim(), text.slice(at + 1).trim()];
  if (at < 1 || meant === '')
    throw new InvalidArgumentError('Write what is asked for and what is meant, as in "T=temperature".');
  return [...before, { asked, meant }];
}

function parseCount(text: string): number {
  const count = Number(text);
  if (!Number.isInteger(count) || count < 1 || count > 10_000)
    throw new InvalidArgumentError('Write a whole number of pictures, up to 10000.');
  return count;
}

function parsePositive(text: string): number {
  const value = Number(text);
  if (!(value > 0 && value <= 240)) throw new InvalidArgumentError('Write a number above 0, up to 240.');
  return value;
}

function parseSeconds(text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !(value >= 0)) throw new InvalidArgumentError('Write seconds, such as 2.5.');
  return value;
}

function parseQuality(text: string): FilmQuality {
  const bits = Number(text);
  const read = filmQualitySchema.safeParse(Number.isNaN(bits) ? text : { bits });
  if (!read.success)
    throw new InvalidArgumentError('Write small, good or best, or bits a second such as 8000000.');
  return read.data;
}

function parseLook(text: string): Look {
  const found = shippedLooks.find(({ id, name }) => [id, name].includes(text.trim().toLowerCase()));
  if (!found) throw new InvalidArgumentError(`There is no such look; "dresser render --help" lists them.`);
  return found;
}

function parseSize(text: string): { width: number; height: number } {
  const match = /^(\d+)x(\d+)$/i.exec(text);
  const [width, height] = [Number(match?.[1]), Number(match?.[2])];
  if (!match || width < 16 || height < 16 || Math.max(width, height) > LARGEST_SIDE) {
    throw new InvalidArgumentError(`Write it like 1920x1080, up to ${LARGEST_SIDE}.`);
  }
  return { width, height };
}

/** Steps as people count them, from 1; given back as a program counts, from 0. */
function parseSteps(text: string): { from: number; to: number; every: number } {
  const match = /^([1-9]\d*)?:([1-9]\d*)?(?::(\d+))?$/.exec(text) ?? /^([1-9]\d*)$/.exec(text);
  if (!match) throw new InvalidArgumentError('Write it like 1:60:10, or one number; the first step is 1.');
  if (!text.includes(':')) return { from: Number(text) - 1, to: Number(text) - 1, every: 1 };
  return {
    from: Number(match[1] ?? 1) - 1,
    to: match[2] === undefined ? Infinity : Number(match[2]) - 1,
    every: Number(match[3] ?? 1) || 1,
  };
}

await program.parseAsync();
