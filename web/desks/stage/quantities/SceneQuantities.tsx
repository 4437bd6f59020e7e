import { Paintbrush, Pencil, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { quantityField } from '#core/fields/quantity-sources.ts';
import { componentsOf } from '#core/model/quantity.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { SceneQuantity } from '#core/scene/document.ts';
import { expandedQuantities } from '#core/scene/named-quantities.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, useDesk, useRun, useScene } from '../desk-store.ts';
import { FoldedSection } from '../FoldedSection.tsx';
import { colourBy } from '../layer-edits.ts';
import { FormulaField } from './FormulaField.tsx';

/** What a quantity of the scene is in words: its unit and shape, or that the run cannot have it. */
function sayQuantity(key: string, run: RunDescription): string {
  const field = quantityField(key, run);
  if (!field) return 'not to be had in this run';
  const shape = field.components === 1 ? 'number' : field.components === 3 ? 'vector' : 'tensor';
  const unit = field.unit === null ? '' : field.unit === '' ? ', no unit' : `, ${field.unit}`;
  return `${shape}${unit}, on ${field.location === 'cell' ? 'cells' : 'points'}`;
}

/** The quantities that were made for this scene from those of the run. */
export function SceneQuantities() {
  const run = useRun();
  const scene = useScene();
  const openLayer = useDesk((s) => s.openLayer);
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState<SceneQuantity | null>(null);
  const all = expandedQuantities(scene);
  const line = scene.layers.find((l) => l.id === openLayer) ?? scene.layers[0];
  return (
    <FoldedSection
      label="Own quantities"
      title="Own quantities"
      aside={all.length > 0 && all.length}
      open={open}
      onOpen={setOpen}
    >
      <div className="mt-1 pl-2">
        <ul>
          {all.map(({ key, ...quantity }) =>
            draft?.id === quantity.id ? null : (
              <li
                key={quantity.id}
                className="group/quantity flex items-start gap-1 rounded-md px-1 py-0.5 hover:bg-sunk"
              >
                <div className="min-w-0 flex-1">
                  <p className="truncate font-medium">{quantity.name}</p>
                  <p className="font-book text-[15px] break-words">{quantity.formula}</p>
                  <p className="text-xs text-soft">{sayQuantity(key, run)}</p>
                </div>
                {line && quantityField(key, run) && (
                  <button
                    type="button"
                    className="mark size-7"
                    aria-label={`Colour by ${quantity.name}`}
                    title={`Colour line ${scene.layers.indexOf(line) + 1} by it`}
                    onClick={() => {
                      const field = quantityField(key, run);
                      if (field) colourBy(line.id, { ...field, name: quantity.name }, componentsOf(field)[0]);
                    }}
                  >
                    <Paintbrush size={14} />
                  </button>
                )}
                <button
                  type="button"
                  className="mark size-7"
                  aria-label={`Change ${quantity.name}`}
                  title="Change it; what uses it follows"
                  onClick={() => setDraft(quantity)}
                >
                  <Pencil size={14} />
                </button>
                <button
                  type="button"
                  className="mark size-7"
                  aria-label={`Delete ${quantity.name}`}
                  onClick={() => edit({ type: 'quantity.remove', id: quantity.id })}
                >
                  <Trash2 size={14} />
                </button>
              </li>
            ),
          )}
        </ul>
        {draft ? (
          <FormulaField draft={draft} onDone={() => setDraft(null)} />
        ) : (
          <button
            type="button"
            className="px-1 py-1 text-sm font-medium text-accent hover:underline"
            onClick={() => setDraft({ id: freshId('quantity'), name: '', formula: '' })}
          >
            + new quantity …
          </button>
        )}
      </div>
    </FoldedSection>
  );
}
