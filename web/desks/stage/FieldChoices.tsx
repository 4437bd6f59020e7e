import { naturalComponent } from '#core/fields/default-quantity.ts';
import { isUsual } from '#core/fields/quantity-sources.ts';
import { type ComplexQuantity, complexQuantities } from '#core/fields/sources/complex-part.ts';
import { type Component, componentName, componentsOf } from '#core/model/quantity.ts';
import type { RunField } from '#core/model/run.ts';
import type { Layer } from '#core/scene/document.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Choice } from './Chooser.tsx';
import { edit, useRun } from './desk-store.ts';
import { colourBy } from './layer-edits.ts';

/** The fields of the run, with their components; what is made from them folded away; or no field at all. */
export function FieldChoices({ layer }: { layer: Layer }) {
  const run = useRun();
  const { colour } = layer;
  const chosen = colour.kind === 'field' ? colour.field : null;
  const complex = complexQuantities(run);
  const ofComplex = new Set(complex.flatMap((c) => c.forms.map((f) => f.field.key)));
  const others = run.fields.filter((f) => !ofComplex.has(f.key));
  const made = others.filter((f) => !isUsual(f.key));
  return (
    <div>
      <p className="head mb-1.5">Coloured by</p>
      {complex.map((quantity) => (
        <ComplexChoice key={quantity.of} quantity={quantity} layer={layer} />
      ))}
      {others
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
      {chosen && <ComponentChoices field={field} id={id} chosen={colour.component} />}
    </div>
  );
}

function ComponentChoices({ field, id, chosen }: { field: RunField; id: string; chosen: Component }) {
  if (field.components === 1) return null;
  return (
    <div className="my-1 ml-2 flex flex-wrap gap-1">
      {componentsOf(field).map((component) => (
        <Pill key={component} on={chosen === component} onClick={() => colourBy(id, field, component)}>
          {componentName(field, component)}
        </Pill>
      ))}
    </div>
  );
}

/** A complex quantity as one, with what is shown of it beside it. */
function ComplexChoice({ quantity, layer: { id, colour } }: { quantity: ComplexQuantity; layer: Layer }) {
  const { of, forms } = quantity;
  const shown = colour.kind === 'field' ? forms.find((f) => f.field.key === colour.field) : undefined;
  const choose = ({ field }: (typeof forms)[number]) => colourBy(id, field, naturalComponent(field));
  return (
    <div>
      <Choice chosen={shown !== undefined} onChoose={() => choose(forms[0])}>
        <span className="min-w-0 flex-1 truncate">{of}</span>
        <span className="text-xs font-normal text-soft">
          {['complex', forms[0].field.unit ?? ''].filter(Boolean).join(', ')}
        </span>
      </Choice>
      {shown && (
        <div className="my-1 ml-2 flex flex-wrap gap-1">
          {forms.map((form) => (
            <Pill key={form.field.key} on={form === shown} onClick={() => choose(form)}>
              {form.says}
            </Pill>
          ))}
        </div>
      )}
      {shown && colour.kind === 'field' && (
        <ComponentChoices field={shown.field} id={id} chosen={colour.component} />
      )}
    </div>
  );
}
