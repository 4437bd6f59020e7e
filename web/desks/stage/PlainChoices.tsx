import type { Layer } from '#core/scene/document.ts';
import { plainColours } from '#core/scene/layer-sentence.ts';
import { Choice } from './Chooser.tsx';
import { edit } from './desk-store.ts';
import { FieldChoices } from './FieldChoices.tsx';

/** One colour for a whole layer, or back to a field. */
export function PlainChoices({ layer }: { layer: Layer }) {
  const now = layer.colour.kind === 'plain' ? layer.colour.colour : '#d8d2c8';
  const set = (colour: string) =>
    edit(
      { type: 'layer.change', id: layer.id, change: { colour: { kind: 'plain', colour } } },
      `plain-${layer.id}`,
    );
  return (
    <div>
      <p className="head mb-1.5">One colour</p>
      {plainColours.map(({ colour, name }) => (
        <Choice key={colour} chosen={now === colour} onChoose={() => set(colour)}>
          <span className="h-4 w-7 rounded-sm border border-rule" style={{ background: colour }} />
          {name}
        </Choice>
      ))}
      <label className="mt-1.5 mb-3 flex items-center gap-2 px-2">
        <input type="color" value={now} onChange={(e) => set(e.target.value)} />
        own colour
      </label>
      <FieldChoices layer={layer} />
    </div>
  );
}
