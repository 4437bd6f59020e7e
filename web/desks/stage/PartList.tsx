import { Eye, EyeOff } from 'lucide-react';
import { useState } from 'react';
import { edit, useRun, useScene } from './desk-store.ts';
import { FoldedSection } from './FoldedSection.tsx';
import { PartColours } from './PartMenu.tsx';

/** The parts of the run: hide, show alone and colour them for the whole scene. */
export function PartList() {
  const run = useRun();
  const { parts: looks } = useScene();
  const [open, setOpen] = useState(false);
  const [colouring, setColouring] = useState<string | null>(null);
  const all = run.parts.map((p) => p.name);
  const hidden = all.filter((p) => looks[p]?.hidden);
  if (all.length < 2) return null;
  return (
    <FoldedSection
      label="Parts"
      title={`${all.length} parts`}
      aside={hidden.length > 0 && `${hidden.length} hidden`}
      open={open}
      onOpen={setOpen}
    >
      <ul className="mt-1">
        {all.map((part) => {
          const look = looks[part];
          return (
            <li key={part} className="group/part">
              <div className="flex items-center gap-1 rounded-md pr-1 hover:bg-sunk">
                <button
                  type="button"
                  className="mark size-7"
                  aria-pressed={!look?.hidden}
                  aria-label={look?.hidden ? `Show ${part}` : `Hide ${part}`}
                  onClick={() =>
                    edit({ type: 'parts.change', parts: [part], change: { hidden: !look?.hidden } })
                  }
                >
                  {look?.hidden ? <EyeOff size={15} /> : <Eye size={15} />}
                </button>
                <button
                  type="button"
                  className={`min-w-0 flex-1 truncate py-1 text-left ${look?.hidden ? 'text-soft' : ''}`}
                  aria-expanded={colouring === part}
                  title="Colour this part"
                  onClick={() => setColouring(colouring === part ? null : part)}
                >
                  {look?.colour && (
                    <span
                      className="mr-2 inline-block size-3 rounded-full border border-rule"
                      style={{ background: look.colour }}
                    />
                  )}
                  {part}
                </button>
                <button
                  type="button"
                  className="px-1 text-xs text-soft opacity-0 group-hover/part:opacity-100 hover:text-accent focus-visible:opacity-100"
                  onClick={() => edit({ type: 'parts.alone', shown: [part], all })}
                >
                  alone
                </button>
              </div>
              {colouring === part && <PartColours part={part} />}
            </li>
          );
        })}
        {hidden.length > 0 && (
          <li>
            <button
              type="button"
              className="px-2 py-1 text-accent hover:underline"
              onClick={() => edit({ type: 'parts.change', parts: all, change: { hidden: false } })}
            >
              Show every part
            </button>
          </li>
        )}
      </ul>
    </FoldedSection>
  );
}
