import { hasFilm } from '#core/motion/scene-at.ts';
import { openFindings } from '#core/preflight/registry.ts';
import { type Finding, type Severity, severities } from '#core/preflight/rule.ts';
import { ask, followJob } from '#engine/server-requests.ts';
import type { PicturesMade } from '#web/server/render-pictures.ts';
import {
  askedSteps,
  type OpenedScene,
  type OpenOptions,
  type StepsAsked,
  withOpenedScene,
} from './opened-scene.ts';
import { filmFindings, sayFinding } from './tell-findings.ts';

export interface PreflightOptions extends OpenOptions {
  /** Of the picture that is checked, in pixels. */
  size: { width: number; height: number };
  steps?: StepsAsked;
  /** Findings of this severity and worse count. */
  least: Severity;
  json?: boolean;
}

/** What was found, as `--json` prints it. */
export interface PreflightReport {
  scene: string;
  run: string;
  /** Steps are counted from 1. */
  pictures: { step: number; findings: Finding[] }[];
  /** Of its film, where it has one. */
  film: Finding[];
  /** How many findings count that nobody has waived. */
  open: number;
}

/** Of light a picture: enough to see what lies behind its words. */
const PASSES = 6;
/** Something was found that counts. */
const FOUND = 2;

/**
 * Says what should be known of the pictures of a scene before they leave the house.
 *
 * @returns the exit code: 0 where nothing counts, 2 where something does, 1 where nothing could be checked
 */
export async function preflightScene(scenePath: string, options: PreflightOptions): Promise<number> {
  let open = 0;
  const nothing = async (): Promise<void> => undefined;
  const code = await withOpenedScene(scenePath, options, nothing, async (opened) => {
    const report = await checkedScene(opened, options);
    open = report.open;
    if (options.json) console.log(JSON.stringify(report, null, 2));
    else inWords(report);
  });
  return code === 0 && open > 0 ? FOUND : code;
}

async function checkedScene(
  { address, run, description, scene }: OpenedScene,
  { steps: asked, size, least }: PreflightOptions,
): Promise<PreflightReport> {
  const steps = askedSteps(asked, { description, scene });
  const pictures = steps.map((step) => ({ step, onward: asked ? 0 : scene.onward }));
  const { job } = await ask<{ job: string }>(`${address}/api/runs/${run}/pictures`, {
    method: 'POST',
    json: { scene, pictures, ...size, transparent: false, passes: PASSES },
  });
  const { findings } = await followJob<PicturesMade>(job, () => undefined, undefined, address);
  const film = hasFilm(scene) ? filmFindings(scene, description) : [];
  const found = steps.map((step, i) => ({ step: step + 1, findings: findings[i] ?? [] }));
  const counts = ({ severity }: Finding): boolean =>
    severities.indexOf(severity) <= severities.indexOf(least);
  const all = [...found.flatMap((p) => p.findings), ...film];
  return {
    scene: scene.name,
    run: description.name,
    pictures: found,
    film,
    open: openFindings(all).filter(counts).length,
  };
}

function inWords({ pictures, film, open }: PreflightReport): void {
  const tell = (where: string, findings: readonly Finding[]): void => {
    for (const finding of findings) console.log(`${where}${finding.severity}: ${sayFinding(finding)}`);
  };
  for (const { step, findings } of pictures) tell(pictures.length > 1 ? `step ${step}, ` : '', findings);
  tell('film, ', film);
  if (open === 0) console.log('Nothing to know that counts.');
}
