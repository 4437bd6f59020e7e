import { CircleAlert, CircleDot, TriangleAlert } from 'lucide-react';
import { useId, useState } from 'react';
import { openFindings } from '#core/preflight/registry.ts';
import type { Finding, Severity } from '#core/preflight/rule.ts';

const marks: Record<Severity, { Icon: typeof CircleAlert; colour: string; says: string }> = {
  serious: { Icon: TriangleAlert, colour: 'text-warn', says: 'Misleads' },
  moderate: { Icon: CircleAlert, colour: 'text-warn', says: 'May be taken wrong' },
  minor: { Icon: CircleDot, colour: 'text-soft', says: 'Could be better' },
};

/** How many there are, in words. */
export const sayFindings = (count: number): string =>
  count === 1 ? '1 thing to know' : `${count} things to know`;

/** What is done with findings. */
export interface FindingActions {
  /** Absent where they are mended elsewhere. */
  mend?(finding: Finding): void;
  waive?(finding: Finding, reason: string): void;
  /** Lets what is waived count again; null for what is waived elsewhere. */
  again?(finding: Finding): (() => void) | null;
}

interface Props extends FindingActions {
  findings: readonly Finding[];
}

/** What the preflight has found, each with what mends it; and what is meant to be so. */
export function Findings({ findings, ...act }: Props) {
  const open = openFindings(findings);
  const waived = findings.filter((f) => f.waived !== null);
  return (
    <div className="flex flex-col gap-3">
      <ul className="flex flex-col gap-3">
        {open.map((finding, i) => (
          <OpenFinding key={`${finding.rule} ${finding.place.name} ${i}`} finding={finding} {...act} />
        ))}
      </ul>
      {waived.length > 0 && (
        <details>
          <summary className="cursor-pointer text-sm text-soft">{waived.length} meant to be so</summary>
          <ul className="mt-2 flex flex-col gap-2 text-sm">
            {waived.map((finding, i) => (
              <WaivedFinding key={`${finding.rule} ${finding.place.name} ${i}`} finding={finding} {...act} />
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function OpenFinding({ finding, mend, waive }: FindingActions & { finding: Finding }) {
  const { severity, says, remedy, rule } = finding;
  const { Icon, colour, says: how } = marks[severity];
  const [waiving, setWaiving] = useState(false);
  const id = useId();
  return (
    <li className="flex gap-2" data-rule={rule}>
      <Icon size={16} className={`mt-0.5 shrink-0 ${colour}`} role="img" aria-label={how} />
      <div className="flex min-w-0 flex-1 flex-col gap-1">
        <p id={id} className="font-medium break-words">
          {says}
        </p>
        <p className="text-sm text-soft">{remedy}</p>
        {waiving && waive ? (
          <WaiveForm
            onReason={(reason) => {
              waive(finding, reason);
              setWaiving(false);
            }}
            onLeave={() => setWaiving(false)}
          />
        ) : (
          <div className="flex flex-wrap gap-1.5 pt-0.5">
            {mend && finding.mend && (
              <button type="button" className="quiet h-7 px-2.5 text-sm" onClick={() => mend(finding)}>
                {finding.mend.says}
              </button>
            )}
            {waive && (
              <button
                type="button"
                className="h-7 px-2 text-sm whitespace-nowrap text-soft hover:text-ink"
                aria-describedby={id}
                onClick={() => setWaiving(true)}
              >
                Meant to be so
              </button>
            )}
          </div>
        )}
      </div>
    </li>
  );
}

function WaiveForm({ onReason, onLeave }: { onReason(reason: string): void; onLeave(): void }) {
  const [reason, setReason] = useState('');
  const id = useId();
  return (
    <form
      className="flex flex-col gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() !== '') onReason(reason.trim());
      }}
    >
      <label htmlFor={id} className="text-sm">
        Why it is meant to be so
      </label>
      <input
        id={id}
        className="field h-8"
        value={reason}
        maxLength={300}
        // biome-ignore lint/a11y/noAutofocus: it was asked for by the button it takes the place of
        autoFocus
        onChange={(e) => setReason(e.target.value)}
      />
      <div className="flex gap-1.5 pt-0.5">
        <button type="submit" className="quiet h-7 px-2.5 text-sm" disabled={reason.trim() === ''}>
          Keep the reason
        </button>
        <button
          type="button"
          className="h-7 px-2 text-sm whitespace-nowrap text-soft hover:text-ink"
          onClick={onLeave}
        >
          Leave it
        </button>
      </div>
    </form>
  );
}

function WaivedFinding({ finding, again }: Pick<FindingActions, 'again'> & { finding: Finding }) {
  const check = again?.(finding);
  return (
    <li>
      <p className="break-words">{finding.says}</p>
      <p className="text-soft">
        “{finding.waived}”{' '}
        {check && (
          <button type="button" className="underline" onClick={check}>
            Check it again
          </button>
        )}
      </p>
    </li>
  );
}
