import { describe, expect, it } from 'vitest';
import { operations } from '../ops/registry.ts';
import { nameOfControl } from './addresses.ts';
import { layerLook } from './things/layer-look.ts';
import { legend } from './things/legend.ts';
import { sceneThings } from './things/registry.ts';
import { scale } from './things/scale.ts';

/** A label may begin so among the settings of its thing, but not where lanes and motions call its value by it. */
const LEANING =
  /^(and|around|as|at|by|end|every|from|in|of|on|so|to|through|where|with)\b|\b(as|at|by|for|from|in|of|to|that)$/i;

describe('what the value of a control is called away from its settings', () => {
  it.each([...operations, ...sceneThings, layerLook, legend, scale].map((d) => [d.opening, d] as const))(
    'is a name: %s',
    (_, { controls }) => {
      for (const control of controls as Parameters<typeof nameOfControl>[0][])
        expect(nameOfControl(control)).not.toMatch(LEANING);
    },
  );
});
