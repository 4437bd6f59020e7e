import { naturalComponent } from '#core/fields/default-quantity.ts';
import { isUsual } from '#core/fields/quantity-sources.ts';
import { componentName, componentsOf } from '#core/model/quantity.ts';
import type { RunField } from '#core/model/run.ts';
import type { Layer } from '#core/scene/document.ts';
import { Choice } from './Chooser.tsx';
import { edit, useRun } from './desk-store.ts';
import { colourBy } from './layer-edits.ts';

/** The fields of the run, with their components; what is made from them folded away; or no field at all. */
export function FieldChoices({ layer }: { layer: Layer }) {
  const run = useRun();
  const { colour } = layer;
  const chosen = colour.kind === 'field' ? colour.field : null;
  const made = run.fields.filter((f) => !isUsual(f.key));
  return (
    <div>
      <p className="head mb-1.5">Coloured by</p>
      {run.fields
        .filter((f) => isUsual(f.key))
        .map((field) => (
          <FieldChoice key={field.key} field={field} layer={layer} />
        ))}
      {made.length > 0 && (
        <details open={made.some((f) => f.key === chosen)}>
          <summary className="cursor-pointer rounded-md px-2 py-1 text-soft hover:bg-sunk">
            made from these
          </summary>
          {made.map((field) => (
            <FieldChoice key={field.key} field={field} layer={layer} />
          ))}
        </details>
      )}
      <hr className="my-1.5 border-rule" />
      <Choice
        chosen={colour.kind === 'plain'}
        onChoose={() =>
          edit({
            type: 'layer.change',
            id: layer.id,
            change: { colour: { kind: 'plain', colour: '#d8d2c8' } },
          })
        }
      >
        no field, one colour
      </Choice>
    </div>
  );
}

function FieldChoice({ field, layer: { id, colour } }: { field: RunField; layer: Layer }) {
  const chosen = colour.kind === 'field' && colour.field === field.key;
  return (
    <div>
      <Choice chosen={chosen} onChoose={() => colourBy(id, field, naturalComponent(field))}>
        <span className="min-w-0 flex-1 truncate">{field.name}</span>
        <span className="text-xs font-normal text-soft">
          {[field.location === 'cell' ? 'per cell' : '', field.unit ?? ''].filter(Boolean).join(', ')}
        </span>
      </Choice>
      {chosen && field.components > 1 && (
        <div className="my-1 ml-2 flex flex-wrap gap-1">
          {componentsOf(field).map((component) => {
            const on = colour.component === component;
            return (
              <button
                key={component}
                type="button"
                aria-pressed={on}
                className={`rounded-full border px-2.5 py-0.5 text-xs ${on ? 'border-accent bg-accent text-on-accent' : 'border-rule hover:border-soft'}`}
                onClick={() => colourBy(id, field, component)}
              >
                {componentName(field, component)}
              </button>
            );
          })}
        </div>
      )}
    </div>
  );
}
