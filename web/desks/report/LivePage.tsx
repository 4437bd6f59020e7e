import { useEffect, useMemo, useRef } from 'react';
import { type Html, html } from '#core/formats/xml/html-template.ts';
import { showsSource } from '#core/report/blocks/registry.ts';
import { reportBody } from '#core/report/html-body.ts';
import { reportStyle } from '#core/report/html-style.ts';
import { lookAt } from './look-at-sources.ts';
import { choose, pictureAddress, standingOf, useReport, useReportDesk } from './report-store.ts';
import { useComposed } from './use-composed.ts';

/** What stands on the page of the desk alone. */
const deskStyle = `
:host{display:block}
.report{box-shadow:0 10px 36px -8px rgb(40 25 10/.28);border-radius:4px;overflow:hidden}
[data-block]{cursor:pointer;border-radius:3px;outline:2px solid transparent;outline-offset:6px}
[data-block]:hover{outline-color:color-mix(in srgb,var(--accent) 35%,transparent)}
[data-block].chosen{outline-color:var(--accent)}
.stale{display:flex;gap:10px;align-items:center;font:14px/1.4 'Inter Variable',sans-serif;background:#f4e0d3;color:#2a2622;border-radius:6px;padding:6px 12px;margin:8px 0 0}
.stale button{font:inherit;font-weight:600;border:0;border-radius:99px;background:#a4431f;color:#fff;padding:3px 12px;cursor:pointer}
`;

/** The report as it will be, kept apart from the styles of the desk; what is chosen here is chosen in the outline too. */
export function LivePage() {
  const report = useReport();
  const composed = useComposed();
  const pictured = useReportDesk((s) => s.pictured);
  const now = useReportDesk((s) => s.now);
  const chosen = useReportDesk((s) => s.chosen);
  const host = useRef<HTMLDivElement>(null);
  const markup = useMemo(() => {
    const stale = new Set(report.sources.filter((s) => standingOf(s, { now }) === 'stale').map((s) => s.id));
    const ofBlock = new Map(
      report.blocks.flatMap((b) => (showsSource(b) ? [[b.id, b.source] as const] : [])),
    );
    const beside = (block: string): Html | null => {
      const source = ofBlock.get(block);
      if (source === undefined || !stale.has(source)) return null;
      return html`<p class="stale">It has changed since. <button type="button" data-refresh="${source}">Refresh</button></p>`;
    };
    const body = reportBody(composed, {
      picture: ({ key }) => pictureAddress(key, { pictured }),
      logo: report.brand.logo,
      beside,
    });
    return `<style>${reportStyle(report.brand)}${deskStyle}</style>${body}`;
  }, [composed, pictured, report, now]);
  useEffect(() => {
    const { current } = host;
    const root = current!.shadowRoot ?? current!.attachShadow({ mode: 'open' });
    root.innerHTML = markup;
  }, [markup]);
  useEffect(() => {
    const root = host.current!.shadowRoot!;
    for (const before of root.querySelectorAll('.chosen')) before.classList.remove('chosen');
    const block = chosen === null ? null : root.querySelector(`[data-block="${CSS.escape(chosen)}"]`);
    block?.classList.add('chosen');
    block?.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
  }, [chosen, markup]);
  useEffect(() => {
    const page = host.current!;
    const onClick = (event: MouseEvent): void => {
      const path = event.composedPath().filter((e): e is HTMLElement => e instanceof HTMLElement);
      const link = path.find((e) => e instanceof HTMLAnchorElement) as HTMLAnchorElement | undefined;
      const refreshed = path.find((e) => e.dataset.refresh)?.dataset.refresh;
      if (refreshed) {
        void lookAt([refreshed]);
        return;
      }
      if (link) {
        event.preventDefault();
        const to = link.hash.slice(1);
        if (to) host.current!.shadowRoot!.getElementById(to)?.scrollIntoView({ behavior: 'smooth' });
        return;
      }
      const block = path.find((e) => e.dataset.block)?.dataset.block;
      if (block) choose(block);
    };
    page.addEventListener('click', onClick);
    return () => page.removeEventListener('click', onClick);
  }, []);
  return (
    <section aria-label="The page" className="min-h-0 flex-1 overflow-y-auto bg-sunk px-6 py-6">
      <div ref={host} />
    </section>
  );
}
