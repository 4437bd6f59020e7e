import type * as Maps from '#core/colour/maps/registry.ts';
import { evenBands } from '#core/model/levels.ts';
import type * as Operations from '#core/ops/registry.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import type * as Fresh from '#web/desks/shared/fresh-id.ts';
import type * as Desk from '#web/desks/stage/desk-store.ts';
import type * as LayerEdits from '#web/desks/stage/layer-edits.ts';

/**
 * Runs in the page, as it stands: readies `act()`, which does a few things to the desk by chance and says which.
 * Modules are those the page itself runs on, by their addresses in the development build.
 */
export async function actsOnTheDesk(seed: number): Promise<void> {
  const load = <T>(address: string): Promise<T> => import(address);
  const { freshId } = await load<typeof Fresh>('/web/desks/shared/fresh-id.ts');
  const { edit, goToStep, redo, sceneNow, undo, useDesk } = await load<typeof Desk>(
    '/web/desks/stage/desk-store.ts',
  );
  const { addLayer } = await load<typeof LayerEdits>('/web/desks/stage/layer-edits.ts');
  const { operations } = await load<typeof Operations>('/core/ops/registry.ts');
  const { colourMaps } = await load<typeof Maps>('/core/colour/maps.ts');

  // Marsaglia (2003), "Xorshift RNGs", with the shifts 13, 17, 5.
  let state = (seed * 2_654_435_761) >>> 0 || 1;
  const chance = (): number => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 32;
  };
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)];
  const often = (share: number): boolean => chance() < share;
  const layers = (): Layer[] => sceneNow().layers;
  const scale = (): Scene['scales'][number] | undefined => pick(sceneNow().scales);
  const change = (more: Partial<Omit<Layer, 'id'>>): void => {
    if (layers().length > 0) edit({ type: 'layer.change', id: pick(layers()).id, change: more });
  };
  const step = (then: (layer: Layer, step: Layer['chain'][number]) => void): void => {
    const with_ = layers().filter((l) => l.chain.length > 0);
    if (with_.length === 0) return;
    const layer = pick(with_);
    then(layer, pick(layer.chain));
  };

  const acts: Record<string, () => void> = {
    turn() {
      const { camera } = sceneNow();
      const position = camera.position.map((v) => v + (chance() - 0.5) * 0.3) as [number, number, number];
      edit({ type: 'setting.change', thing: 'camera', change: { position } }, 'turn');
    },
    projection() {
      const projection = pick(['parallel', 'perspective'] as const);
      edit({ type: 'setting.change', thing: 'camera', change: { projection } });
    },
    colours() {
      const of = scale();
      const look = {
        map: pick(colourMaps).id,
        bands: pick([null, evenBands(3), evenBands(8)]),
        reversed: often(0.5),
      };
      if (of) edit({ type: 'scale.change', id: of.id, change: look });
    },
    range() {
      const of = scale();
      const range = pick([
        { kind: 'all-steps' } as const,
        { kind: 'this-step' } as const,
        { kind: 'fixed', low: 0, high: 100 * chance() } as const,
      ]);
      if (of) edit({ type: 'scale.change', id: of.id, change: { range } });
    },
    legend() {
      const of = scale();
      const look = { x: chance(), y: chance(), upright: often(0.5), visible: often(0.8) };
      if (of) edit({ type: 'legend.change', id: of.id, change: { ...look, title: pick([null, 'A title']) } });
    },
    look: () => change({ opacity: pick([1, 0.4, 0]), visible: often(0.85), sides: pick(['both', 'inside']) }),
    plain: () => change({ colour: { kind: 'plain', colour: pick(['#d8d2c8', '#5a5753']) } }),
    add: () => layers().length < 5 && addLayer(pick(operations.filter((o) => o.id !== 'volume'))),
    remove: () => layers().length > 1 && edit({ type: 'layer.remove', id: pick(layers()).id }),
    duplicate: () =>
      layers().length < 5 && edit({ type: 'layer.duplicate', id: pick(layers()).id, newId: freshId('l') }),
    move: () =>
      edit({ type: 'layer.move', id: pick(layers()).id, to: Math.floor(chance() * layers().length) }),
    switch: () => step(({ id }, at) => edit({ type: 'chain.switch', id, step: at.id, off: often(0.5) })),
    shorten: () => step(({ id }, at) => edit({ type: 'chain.remove', id, step: at.id })),
    offset: () =>
      step(({ id }, at) => {
        if ('offset' in (at.options as object))
          edit({ type: 'chain.change', id, step: at.id, options: { offset: chance() } }, 'offset');
      }),
    light: () =>
      edit({
        type: 'setting.change',
        thing: 'light',
        change: {
          rig: pick(['studio', 'even']),
          shadow: often(0.5),
          contact: chance(),
        },
      }),
    floor: () =>
      edit({
        type: 'setting.change',
        thing: 'floor',
        change: { kind: pick(['none', 'shadow', 'mirror', 'plain', 'tiles']), mirrors: chance() },
      }),
    backdrop: () =>
      edit({
        type: 'setting.change',
        thing: 'backdrop',
        change: { kind: pick(['paper', 'mist', 'white', 'ink']) },
      }),
    stamp: () =>
      edit({
        type: 'setting.change',
        thing: 'stamp',
        change: { visible: often(0.7), x: chance(), y: chance(), style: pick(['decimals', 'clock']) },
      }),
    aspect: () =>
      edit({ type: 'setting.change', thing: 'picture', change: { aspect: pick([null, 1, 1.5, 1.7778]) } }),
    inside: () =>
      edit({
        type: 'setting.change',
        thing: 'lookInside',
        change: { front: pick(['off', 'translucent', 'removed']) },
      }),
    parts: () =>
      edit({
        type: 'parts.change',
        parts: [pick(useDesk.getState().run.parts).name],
        change: { hidden: often(0.3), edges: pick([null, true, false]), colour: pick([null, '#b4733f']) },
      }),
    step: () => goToStep(Math.floor(chance() * useDesk.getState().run.steps.length)),
    play: () => useDesk.setState({ playing: often(0.3) }),
    undo: () => undo(),
    redo: () => redo(),
    openLine: () => useDesk.setState({ openLayer: pick([null, ...layers().map((l) => l.id)]) }),
    giveOut: () => useDesk.setState({ giveOut: often(0.25) }),
    clearView: () => useDesk.setState({ peeling: often(0.2) }),
    drawSet: () =>
      useDesk.setState({
        draft: often(0.3)
          ? { name: 'd', rule: { kind: 'box', low: [0, 0, 0], high: [chance(), chance(), chance()] } }
          : null,
      }),
    press() {
      const safe = [...document.querySelectorAll('button')].filter(
        (b) => !b.disabled && !/Intake|Delete|Save|Make|Keep/i.test(`${b.textContent}${b.ariaLabel}`),
      );
      if (safe.length > 0) pick(safe).click();
    },
    escape: () =>
      document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true })),
  };
  const act = (): string => {
    const done = Array.from({ length: 1 + Math.floor(chance() * 4) }, () => pick(Object.keys(acts)));
    for (const name of done) acts[name]();
    return done.join(', ');
  };
  Object.assign(window, { act });
}
