import { naturalComponent } from '#core/fields/default-quantity.ts';
import { type Html, html, ownPicture } from '#core/formats/xml/html-template.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { quantityStatistics } from '#core/model/quantity.ts';
import type { RunDescription } from '#core/model/run.ts';
import { saySteps } from '#core/motion/step-text.ts';

export interface Figure {
  /** PNG as a data address. */
  picture: string;
  caption: string;
  width: number;
  height: number;
}

/** What the page may do, stated in itself: show its own pictures and styles, and nothing else. */
const policy =
  "default-src 'none'; img-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'";

/**
 * One HTML file with everything in it: title, figures with captions, the facts of the run. It asks for nothing from
 * any network and runs no script.
 */
export function pageDocument(title: string, intro: string, figures: Figure[], run: RunDescription): string {
  return String(html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title}</title>
${style}
</head>
<body>
<main>
<h1>${title}</h1>
${intro.trim() ? html`<p class="intro">${intro.trim()}</p>` : null}
${figures.map(figureOf)}
<h2>The run</h2>
${facts(run)}
</main>
</body>
</html>
`);
}

const figureOf = ({ picture, caption, width, height }: Figure, index: number): Html => html`<figure>
<img src="${ownPicture(picture)}" width="${width}" height="${height}" alt="${caption}">
<figcaption><b>Figure ${index + 1}.</b> ${caption}</figcaption>
</figure>`;

const style = html`<style>
:root{color-scheme:light}
body{margin:0;background:#f6f2eb;color:#2a2622;font:17px/1.55 Georgia,'Times New Roman',serif}
main{max-width:980px;margin:0 auto;padding:48px 32px 80px}
h1{font-size:36px;line-height:1.15;font-weight:500;margin:0 0 20px}
h2{font-size:22px;font-weight:500;margin:48px 0 12px}
.intro{font-size:19px;max-width:46em}
figure{margin:36px 0}
img{display:block;width:100%;height:auto;border-radius:8px}
figcaption{margin-top:10px;color:#5b544c;font-size:15.5px}
table{border-collapse:collapse;width:100%;font:14px/1.4 system-ui,sans-serif;font-variant-numeric:tabular-nums;margin-bottom:24px}
th,td{text-align:left;padding:6px 12px 6px 0;border-bottom:1px solid #ddd5c8;vertical-align:top}
th{color:#6a6259;font-weight:600}
@media print{body{background:#fff}figure{break-inside:avoid}}
</style>`;

const headRow = (...cells: string[]): Html => html`<tr>${cells.map((c) => html`<th>${c}</th>`)}</tr>`;
const row = (...cells: string[]): Html => html`<tr>${cells.map((c) => html`<td>${c}</td>`)}</tr>`;

function facts(run: RunDescription): Html {
  const steps = saySteps(run.steps, run.timeUnit);
  const parts = run.parts.map((p) => {
    const mesh = p.meshes[0];
    const cells = Object.entries(mesh.cellsByType).map(([type, n]) => `${n.toLocaleString('en-GB')} ${type}`);
    return row(p.name, mesh.pointCount.toLocaleString('en-GB'), cells.join(', '));
  });
  const fields = run.fields.map((f) => {
    const stats = quantityStatistics(f, naturalComponent(f), null);
    return row(
      f.name,
      f.location,
      f.unit ?? 'not stated',
      stats ? `${sayNumber(stats.min)} to ${sayNumber(stats.max)}` : '',
    );
  });
  return html`<p>${run.name}, ${steps}.</p>
<table><thead>${headRow('Part', 'Points', 'Cells')}</thead><tbody>${parts}</tbody></table>
<table><thead>${headRow('Field', 'On', 'Unit', 'Range over all steps')}</thead><tbody>${fields}</tbody></table>
${run.warnings.length > 0 ? html`<p>Noted at import: ${run.warnings.join('; ')}.</p>` : null}`;
}
