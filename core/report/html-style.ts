import type { Brand } from './brand.ts';

const families: Record<Brand['heading'], string> = {
  plain: "'Inter Variable', Inter, system-ui, sans-serif",
  book: "'Newsreader Variable', Newsreader, Georgia, serif",
};

/** How its figures look that can be turned. */
export const livingStyle = (brand: Brand): string => `
.living{position:relative}
.living button{font:600 13.5px/1 ${families.plain};color:${brand.ink};background:${brand.paper};border:1px solid color-mix(in srgb,${brand.ink} 45%,transparent);border-radius:6px;min-height:32px;padding:0 12px;cursor:pointer}
.living button:hover{background:color-mix(in srgb,${brand.ink} 8%,${brand.paper})}
.living :focus-visible{outline:3px solid ${brand.accent};outline-offset:2px}
.living-wake{position:absolute;right:10px;top:10px}
.living-awake>img{display:none}
.living-stage{position:relative;width:100%;border-radius:4px;overflow:hidden}
.living-stage canvas{position:absolute;inset:0;width:100%;height:100%;display:block;cursor:grab}
.living-stage canvas:active{cursor:grabbing}
.living-stage canvas:focus-visible{outline-offset:-3px}
.report .living-stamp{position:absolute;left:16px;bottom:12px;margin:0;font:500 15px/1.3 ${families.plain};pointer-events:none}
.living-tag{position:absolute;width:12px;height:12px;margin:-6px 0 0 -6px;border-radius:50%;border:2px solid #fff;box-shadow:0 0 0 1.5px #000;pointer-events:none}
.living-tag span{position:absolute;top:50%;left:14px;transform:translateY(-50%);font:600 13px/1.3 ${families.plain};font-variant-numeric:tabular-nums;color:${brand.ink};background:${brand.paper};border-radius:4px;padding:4px 8px;box-shadow:0 1px 4px rgb(0 0 0/.35);white-space:nowrap}
.living-tag[hidden],.living-wake[hidden]{display:none}
.living-tag-left span{left:auto;right:14px}
.living-legends{display:flex;flex-wrap:wrap;gap:10px 32px;margin-top:10px;font:400 13px/1.4 ${families.plain}}
.living-legend{width:320px;max-width:100%}
.report .living-legend p{margin:0 0 4px}
.living-legend canvas{display:block;width:100%;height:12px;border-radius:2px}
.living-ticks{position:relative;height:20px;margin-top:3px}
.living-ticks span{position:absolute;white-space:nowrap}
.living-tools{display:flex;flex-wrap:wrap;align-items:center;gap:8px 16px;margin-top:8px;font:400 13.5px/1.4 ${families.plain}}
.living-tools label{display:flex;align-items:center;gap:8px}
.living-tools input{accent-color:${brand.accent};width:150px;min-height:24px}
.living-tools output{min-width:64px;font-variant-numeric:tabular-nums}
.report .living-told{font:400 13px/1.5 ${families.plain};margin:6px 0 0}
.living-told:empty{display:none}
@media print{.living-awake>img{display:block}.living-panel,.living-wake,.living-told{display:none!important}}
`;

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
