import type { Finding } from '#core/preflight/rule.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, useScene } from '#web/desks/stage/desk-store.ts';
import { Findings } from './Findings.tsx';

/** What the preflight has found in the scene on the stage: it is mended and waived there. */
export function SceneFindings({ findings }: { findings: readonly Finding[] }) {
  const { waived } = useScene().checks;
  const keep = (to: typeof waived): void =>
    edit({ type: 'setting.change', thing: 'checks', change: { waived: to } });
  return (
    <Findings
      findings={findings}
      mend={({ mend }) => {
        // All of it is one step of undo.
        const key = freshId('mend');
        for (const one of mend?.edits ?? []) edit(one, key);
      }}
      waive={({ rule, place }, reason) => keep([...waived, { rule, of: place.name, reason }])}
      again={({ rule, place }) =>
        () =>
          keep(waived.filter((w) => w.rule !== rule || w.of !== place.name))
        }
    />
  );
}
