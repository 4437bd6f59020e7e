import { CircleAlert, CircleCheck, CircleDot } from 'lucide-react';
import { Popover } from 'radix-ui';
import { openFindings } from '#core/preflight/registry.ts';
import { CheckedFor } from '#web/desks/preflight/CheckedFor.tsx';
import { sayFindings } from '#web/desks/preflight/Findings.tsx';
import { SceneFindings } from '#web/desks/preflight/SceneFindings.tsx';
import { usePreflight } from '#web/desks/preflight/use-preflight.ts';

/** How the picture does in the preflight, and what should be known of it before it is shown to somebody. */
export function PreflightBadge() {
  const findings = usePreflight();
  const open = openFindings(findings);
  const isMinor = open.every((f) => f.severity === 'minor');
  const Icon = open.length === 0 ? CircleCheck : isMinor ? CircleDot : CircleAlert;
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`flex h-7 items-center gap-1.5 rounded-full px-2.5 text-sm whitespace-nowrap hover:bg-sunk ${isMinor ? 'text-soft' : 'text-warn'}`}
        data-testid="preflight"
      >
        <Icon size={15} />
        {open.length === 0 ? 'Nothing to know' : sayFindings(open.length)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="end"
          sideOffset={8}
          collisionPadding={12}
          aria-label="Preflight of the picture"
          className="card z-50 flex max-h-(--radix-popover-content-available-height) w-[26rem] flex-col gap-3 overflow-y-auto p-4"
        >
          {open.length === 0 && <p>The preflight has found nothing that should be known of this picture.</p>}
          <SceneFindings findings={findings} />
          <CheckedFor />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
