import type { OperationSetting, OptionControl } from '#core/ops/chain/operation.ts';
import type { Address } from '#core/scene/addresses.ts';
import type { Layer, Scale } from '#core/scene/document.ts';

export type Options = Record<string, unknown>;
export type AnyControl = OptionControl<Options>;

/** What a control needs to know of the thing it edits. */
export interface ControlProps<K extends AnyControl['kind'] = AnyControl['kind']> {
  control: Extract<AnyControl, { kind: K }>;
  options: Options;
  setting: OperationSetting;
  /** @param key changes in a row with the same key are one step of undo */
  set(change: Options, key?: string | null): void;
  /** The layer or the colour scale the options belong to, where they do. */
  layer?: Layer;
  /** Where the options are in the scene, where they can have keys in its film. */
  at?: Address;
  scale?: Scale;
}
