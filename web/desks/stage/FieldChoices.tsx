import { naturalComponent } from '#core/fields/default-quantity.ts';
import { componentName, componentsOf } from '#core/model/quantity.ts';
import type { Layer } from '#core/scene/document.ts';
import { Choice } from './Chooser.tsx';
import { edit, useRun } from './desk-store.ts';
import { colourBy } from './layer-edits.ts';

/** The fields of the run, with their components; or no field at all. */
export function FieldChoices({ layer }: { layer: Layer }) {
  const run = useRun();
  const { colour } = layer;
  return (
    <div>
      <p className="head mb-1.5">Coloured by</p>
      {run.fields.map((field) => {
        const chosen = colour.kind === 'field' && colour.field === field.key;
        return (
          <div key={field.key}>
            <Choice chosen={chosen} onChoose={() => colourBy(layer.id, field, naturalComponent(field))}>
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
                      onClick={() => colourBy(layer.id, field, component)}
                    >
                      {componentName(field.components, component)}
                    </button>
                  );
                })}
              </div>
            )}
          </div>
        );
      })}
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
