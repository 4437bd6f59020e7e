import { sensibleField } from '#core/fields/default-quantity.ts';
import { fieldByKey, type RunDescription } from '#core/model/run.ts';
import type { Hook } from '#core/scene/annotations/attachment.ts';
import { type AnyAnnotationKind, annotationKind } from '#core/scene/annotations/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import type { Picked } from '#stage/picking.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, sceneNow, useDesk } from '../desk-store.ts';
import type { FindNearest } from '../finding-context.ts';

/**
 * Adds words or marks of a kind.
 *
 * @param open whether their settings open
 */
export function addWords(kind: AnyAnnotationKind, change: Record<string, unknown> = {}, open = true): void {
  const { run } = useDesk.getState();
  const scene = sceneNow();
  const layer = scene.layers.find((l) => l.visible && l.colour.kind === 'field');
  const id = freshId('words');
  const options = kind.defaults(settingOf(run, scene, layer), scene);
  edit({
    type: 'annotation.add',
    annotation: { ...options, ...change, id, kind: kind.id, visible: true },
  });
  if (open) useDesk.setState({ openWords: id });
}

/** The quantity a line is coloured by, or one that a newcomer would look at. */
function quantityOfLayer(layer: string | null, run: RunDescription): Pick<Hook, 'field' | 'component'> {
  const colour = sceneNow().layers.find((l) => l.id === layer)?.colour;
  if (colour?.kind === 'field') return { field: colour.field, component: colour.component };
  const sensible = sensibleField(run);
  return sensible
    ? { field: sensible.field.key, component: sensible.component }
    : { field: '', component: 0 };
}

/** A hook on the lowest or highest value of the quantity it has, or of a sensible one. */
export const hookTo = (on: 'lowest' | 'highest', hook: Hook, run: RunDescription): Partial<Hook> => ({
  on,
  ...(hook.field === '' ? quantityOfLayer(null, run) : {}),
});

/** What words that hang on what was pointed at have to be told. */
export async function hookAt(on: Hook['on'], picked: Picked, nearest: FindNearest): Promise<Partial<Hook>> {
  const { run } = useDesk.getState();
  const common = { on, place: picked.place, ...quantityOfLayer(picked.layer, run) };
  if (on === 'place') return common;
  if (on === 'part') return { ...common, part: picked.part };
  const found = await nearest(picked);
  const index = on === 'node' ? found?.node : (picked.cell ?? found?.cell);
  if (!found || index === undefined || index === null)
    throw new Error(`There is no ${on} where you pointed. Point at a face, a line or a point of a part.`);
  return { ...common, part: found.part, index };
}

const says: Record<Hook['on'], string> = {
  place: 'Click the place on the picture.',
  part: 'Click the part on the picture.',
  node: 'Click near the node on the picture.',
  cell: 'Click the cell on the picture.',
  lowest: '',
  highest: '',
};

/** Has something pointed at on the picture for words to hang on. */
export function pointAtHook(on: Hook['on'], nearest: FindNearest, take: (hook: Partial<Hook>) => void): void {
  useDesk.setState({
    pointing: {
      says: says[on],
      onPick: (picked) => {
        hookAt(on, picked, nearest).then(take, (error: Error) =>
          useDesk.setState({ trouble: error.message }),
        );
        return true;
      },
    },
  });
}

/**
 * Adds words that hang on what was pointed at.
 *
 * @param text with the unit of the quantity there, a space before it
 */
export async function addWordsAt(
  kind: 'label' | 'callout',
  on: Hook['on'],
  picked: Picked,
  nearest: FindNearest,
  text: (unit: string) => string,
): Promise<void> {
  try {
    const hook = await hookAt(on, picked, nearest);
    const unit = fieldByKey(useDesk.getState().run, hook.field ?? '')?.unit;
    addWords(annotationKind(kind), { ...hook, text: text(unit ? ` ${unit}` : '') }, false);
  } catch (error) {
    useDesk.setState({ trouble: (error as Error).message });
  }
}
