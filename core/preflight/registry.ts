import type { Checks } from '../scene/things/checks.ts';
import type { Finding, PreflightRule, SubjectKind, Subjects } from './rule.ts';
import { severities } from './rule.ts';
import { averagedJump } from './rules/averaged-jump.ts';
import { betweenUnstated } from './rules/between-unstated.ts';
import { chartCut } from './rules/chart-cut.ts';
import { coarseCells } from './rules/coarse-cells.ts';
import { colourBlind } from './rules/colour-blind.ts';
import { cutUnstated } from './rules/cut-unstated.ts';
import { deformationUnstated } from './rules/deformation-unstated.ts';
import { differentRanges } from './rules/different-ranges.ts';
import { emptyLine } from './rules/empty-line.ts';
import { faintWords } from './rules/faint-words.ts';
import { fewPictures } from './rules/few-pictures.ts';
import { flicker } from './rules/flicker.ts';
import { largeForMail } from './rules/large-for-mail.ts';
import { leak } from './rules/leak.ts';
import { noLegend } from './rules/no-legend.ts';
import { noLogarithm } from './rules/no-logarithm.ts';
import { noTime } from './rules/no-time.ts';
import { noTitle } from './rules/no-title.ts';
import { noUnit } from './rules/no-unit.ts';
import { nothingToTell } from './rules/nothing-to-tell.ts';
import { sameMap } from './rules/same-map.ts';
import { saturated } from './rules/saturated.ts';
import { smallPart } from './rules/small-part.ts';
import { smallWords } from './rules/small-words.ts';
import { staleFigure } from './rules/stale-figure.ts';
import { unevenFilm } from './rules/uneven-film.ts';
import { unorderedMap } from './rules/unordered-map.ts';
import { veiledValues } from './rules/veiled-values.ts';
import { wordsOverModel } from './rules/words-over-model.ts';
import { wordsOverWords } from './rules/words-over-words.ts';
import { wrongFrame } from './rules/wrong-frame.ts';

/** Every rule. A new one is a file among the others and a line here. */
export const preflightRules = [
  saturated,
  differentRanges,
  unorderedMap,
  colourBlind,
  sameMap,
  noLogarithm,
  nothingToTell,
  veiledValues,
  noLegend,
  noUnit,
  noTitle,
  noTime,
  deformationUnstated,
  cutUnstated,
  betweenUnstated,
  smallWords,
  faintWords,
  wordsOverWords,
  wordsOverModel,
  wrongFrame,
  smallPart,
  emptyLine,
  averagedJump,
  coarseCells,
  staleFigure,
  chartCut,
  fewPictures,
  unevenFilm,
  flicker,
  largeForMail,
  leak,
] as readonly PreflightRule[];

/** Rules by their ids. */
export const ruleById = (id: string): PreflightRule | undefined => preflightRules.find((r) => r.id === id);

/** What is waived, and nothing else of how a scene is checked. */
type Waived = Pick<Checks, 'waived'>;

/**
 * What should be known before something leaves the house, the worst first.
 *
 * @param subjects what is known of it; rules of what is not given are passed over
 */
export function preflight(subjects: Partial<Subjects>, { waived }: Waived): Finding[] {
  const found = preflightRules.flatMap((rule) => {
    const subject = subjects[rule.of as SubjectKind];
    if (subject === undefined) return [];
    return rule.find(subject as never).map((one): Finding => {
      const waiver = waived.find((w) => w.rule === rule.id && w.of === one.place.name);
      return { ...one, rule: rule.id, severity: rule.severity, waived: waiver?.reason ?? null };
    });
  });
  const rank = ({ severity, waived: why }: Finding): number =>
    severities.indexOf(severity) + (why === null ? 0 : severities.length);
  return found
    .map((f, i) => ({ f, i }))
    .sort((a, b) => rank(a.f) - rank(b.f) || a.i - b.i)
    .map(({ f }) => f);
}

/** What nobody has waived. */
export const openFindings = (findings: readonly Finding[]): Finding[] =>
  findings.filter((f) => f.waived === null);
