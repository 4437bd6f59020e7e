import type { Brand } from './brand.ts';

const families: Record<Brand['heading'], string> = {
  plain: "'Inter Variable', Inter, system-ui, sans-serif",
  book: "'Newsreader Variable', Newsreader, Georgia, serif",
};

/** How a report looks on a screen and on paper. */
export const reportStyle = (brand: Brand): string => `
.report{color-scheme:light;background:${brand.paper};color:${brand.ink};font:400 16px/1.6 ${families[brand.body]};font-variant-numeric:tabular-nums;max-width:860px;margin:0 auto;padding:0 56px 64px;box-sizing:border-box;overflow-wrap:break-word}
.report *{box-sizing:border-box}
.report h1,.report h2,.report h3{font-family:${families[brand.heading]};font-weight:600;line-height:1.2;text-wrap:balance;margin:0}
.report h1{font-size:38px}
.report h2{font-size:25px;margin:44px 0 14px}
.report h3{font-size:19px;margin:30px 0 10px}
.report p{margin:0 0 14px}
.report a{color:${brand.accent};text-underline-offset:2px}
.front{background:${brand.backdrop};margin:0 -56px 32px;padding:56px 56px 40px;border-bottom:3px solid ${brand.accent}}
.front .logo{max-height:56px;max-width:220px;margin-bottom:28px;display:block}
.front .subtitle{font-size:20px;margin:12px 0 0}
.front .byline{margin:18px 0 0;opacity:.85}
.list ol{list-style:none;margin:0;padding:0}
.list li{padding:3px 0}
.list .level-2{padding-left:24px}
.text ul,.text ol{margin:0 0 14px;padding-left:26px}
.text .depth-1{margin-left:24px}.text .depth-2,.text .depth-3{margin-left:48px}
figure{margin:26px 0}
figure.half{display:inline-block;vertical-align:top;width:calc(50% - 12px);margin-right:20px}
figure.half+figure.half{margin-right:0}
figure img{display:block;width:100%;height:auto;border-radius:4px}
.chart{border:1px solid color-mix(in srgb,${brand.ink} 18%,transparent);border-radius:4px;padding:6px;background:#fff}
.chart svg{display:block;width:100%;height:auto}
.undrawn{display:flex;align-items:center;justify-content:center;width:100%;border-radius:4px;background:color-mix(in srgb,${brand.ink} 8%,transparent)}
figcaption,caption{font-size:14px;line-height:1.5;margin-top:8px;text-align:left}
caption{caption-side:top;margin:0 0 6px;padding-bottom:8px}
.table{margin:24px 0;overflow-x:auto}
table{border-collapse:collapse;width:100%;font-size:14.5px}
.many table{font-size:11.5px}
.many th,.many td{padding-inline:0 8px}
thead th{border-bottom:2px solid ${brand.ink};font-weight:600}
th,td{padding:6px 14px 6px 0;text-align:start;vertical-align:top;border-bottom:1px solid color-mix(in srgb,${brand.ink} 16%,transparent)}
tbody th{font-weight:400}
th.right,td.right{text-align:right;padding:6px 0 6px 14px}
.note{font-size:13px;margin:6px 0 0}
.numbers{display:flex;flex-wrap:wrap;gap:18px 40px;margin:24px 0}
.numbers dt{font-size:14px}
.numbers dd{margin:2px 0 0;font:600 30px/1.2 ${families[brand.heading]}}
.numbers small{display:block;font:400 13px/1.4 ${families[brand.body]}}
.missing{border:1px dashed ${brand.accent};border-radius:4px;padding:10px 14px}
mark{background:none;color:inherit;text-decoration:underline wavy ${brand.accent}}
.glossary dt{font-weight:600}
.glossary dd{margin:0 0 10px}
.provenance dl{display:grid;grid-template-columns:150px 1fr;gap:4px 16px;font-size:13.5px}
.provenance dt{grid-column:1}
.provenance dd{grid-column:2;margin:0;overflow-wrap:anywhere}
@media print{
@page{size:A4;margin:${brand.margin}mm}
.report{max-width:none;padding:0}
.front{margin:0 0 24px;padding:40px 32px;-webkit-print-color-adjust:exact;print-color-adjust:exact}
figure,.numbers,tr{break-inside:avoid}
h2,h3{break-after:avoid}
.chart{-webkit-print-color-adjust:exact;print-color-adjust:exact}
}
@page{@bottom-right{content:counter(page);font:9pt ${families.plain};color:${brand.ink}}}
`;
