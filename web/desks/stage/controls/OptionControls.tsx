import { understood, whyNotUnderstood } from '#core/ops/chain/understood.ts';
import { operations } from '#core/ops/registry.ts';
import { optionsOfControl } from '#core/scene/addresses.ts';
import type { ChainStep, Layer } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { edit, useRun, useScene } from '../desk-store.ts';
import type { AnyControl, Options } from './control-props.ts';
import { Controls } from './OneControl.tsx';

interface Props {
  layer: Layer;
  /** Id of the step of its chain. */
  step: string;
  /** Only the control of one option. */
  only?: string;
}

/** Everything an operation can be told, built from what its file says. */
export function OptionControls({ layer, step, only }: Props) {
  const run = useRun();
  const scene = useScene();
  const chainStep = layer.chain.find((s) => s.id === step);
  if (!chainStep) return null;
  const known = understood(chainStep);
  if (!known) return <NotUnderstood layer={layer} step={chainStep} />;
  return (
    <Controls
      controls={known.operation.controls as AnyControl[]}
      only={only ? (c) => optionsOfControl(c).includes(only) : undefined}
      options={known.options as Options}
      setting={settingOf(run, scene, layer)}
      layer={layer}
      at={['layers', layer.id, 'chain', step]}
      set={(options, key = null) =>
        edit({ type: 'chain.change', id: layer.id, step, options }, key && `${key}-${layer.id}-${step}`)
      }
    />
  );
}

function NotUnderstood({ layer, step }: { layer: Layer; step: ChainStep }) {
  const run = useRun();
  const scene = useScene();
  const operation = operations.find((o) => o.id === step.op);
  return (
    <p className="text-sm text-soft">
      {whyNotUnderstood(step)} It is kept as it stands and passed over; take it away if it is not needed
      {operation ? ', or ' : '.'}
      {operation && (
        <button
          type="button"
          className="font-medium text-accent hover:underline"
          onClick={() => {
            const options = operation.defaults(settingOf(run, scene, layer)) as Options;
            edit({ type: 'chain.change', id: layer.id, step: step.id, options });
          }}
        >
          give it plain ones
        </button>
      )}
    </p>
  );
}
