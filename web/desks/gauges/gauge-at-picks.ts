import { quantityByKey } from '#core/language/phrase.ts';
import { quoteIfNeeded } from '#core/language/sentence.ts';
import { settingOf } from '#core/scene/setting.ts';
import type { Picked } from '#stage/picking.ts';
import { edit, sceneNow, useDesk } from '#web/desks/stage/desk-store.ts';
import type { FindNearest } from '#web/desks/stage/finding-context.ts';
import { hookAt } from '#web/desks/stage/words/word-edits.ts';
import { gaugeOf, showDesk } from './draw-curves.ts';

const fail = (error: Error): void => useDesk.setState({ trouble: error.message });

/** The node nearest to what was pointed at, as sentences call it. */
async function nodeAt(picked: Picked, nearest: FindNearest): Promise<string> {
  const { index, part } = await hookAt('node', picked, nearest);
  return `node ${index} of ${quoteIfNeeded(part!)}`;
}

function ask(sentence: string): void {
  const gauge = gaugeOf(sentence, useDesk.getState().run);
  if (!gauge) throw new Error(`“${sentence}” is not understood here.`);
  edit({ type: 'gauge.add', gauge });
  showDesk('gauges');
  useDesk.setState({ openGauge: gauge.id });
}

/** Asks for what a line is coloured by, at the node that was pointed at. */
export async function valueAtPick(picked: Picked, nearest: FindNearest): Promise<void> {
  try {
    const { field, component } = await hookAt('node', picked, nearest);
    const { run } = useDesk.getState();
    const quantity = quantityByKey(field!, component!, settingOf(run, sceneNow()));
    if (!quantity) throw new Error('This run has nothing to ask for there.');
    ask(`value of ${quantity.name} at ${await nodeAt(picked, nearest)}`);
  } catch (error) {
    fail(error as Error);
  }
}

/** Has so many more places pointed at, and asks for what lies between them and the first. */
export function measureFromPick(kind: 'distance' | 'angle', first: Picked, nearest: FindNearest): void {
  const wanted = kind === 'distance' ? 2 : 3;
  const nodes: Promise<string>[] = [nodeAt(first, nearest)];
  const says = (): string =>
    kind === 'distance'
      ? 'Click where the distance ends.'
      : nodes.length === 1
        ? 'Click in the direction the angle begins with.'
        : 'Click in the direction it ends with.';
  const onPick = (picked: Picked): boolean => {
    nodes.push(nodeAt(picked, nearest));
    if (nodes.length < wanted) {
      useDesk.setState({ pointing: { says: says(), onPick } });
      return false;
    }
    Promise.all(nodes)
      .then(([a, b, c]) =>
        ask(kind === 'distance' ? `distance from ${a} to ${b}` : `angle at ${a} between ${b} and ${c}`),
      )
      .catch(fail);
    return true;
  };
  useDesk.setState({ pointing: { says: says(), onPick } });
}
