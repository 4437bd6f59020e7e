import type { ComponentType } from 'react';
import { KeyDot } from '#web/desks/reel/KeyDot.tsx';
import { BeyondControl, LevelLinesControl, ScaleOpacityControl } from '../scale/BeyondControl.tsx';
import { MapControl } from '../scale/MapControl.tsx';
import { CategoriesControl, UnitControl } from '../scale/NumbersControl.tsx';
import { RangeControl, SpacingControl } from '../scale/RangeControl.tsx';
import { BodyFileControl } from './BodyFileControl.tsx';
import type { AnyControl, ControlProps, Options } from './control-props.ts';
import { EnclosureControl } from './EnclosureControl.tsx';
import { FinishControl } from './FinishControl.tsx';
import { FocalLengthControl } from './FocalLengthControl.tsx';
import { KeptCamerasControl } from './KeptCamerasControl.tsx';
import { LevelsControl } from './LevelsControl.tsx';
import { EdgesControl, LayerTimeControl } from './LookControls.tsx';
import { NamedControl, NumberControl, PairControl, SpanControl } from './NumberControls.tsx';
import { CurveControl } from './OpacityCurve.tsx';
import {
  DirectionControl,
  PartControl,
  PlaceControl,
  PlacesControl,
  PlaneOfOptions,
} from './PlaceControls.tsx';
import { PlacedLightsControl } from './PlacedLightsControl.tsx';
import {
  ChoiceControl,
  ColourControl,
  ShareControl,
  StepControl,
  TickControl,
  WordControl,
  WordsControl,
} from './PlainControls.tsx';
import { ConditionControl, QuantityControl } from './QuantityControls.tsx';
import { HookControl, ImageControl, TemplateControl } from './WordsControls.tsx';

/** What edits each kind of option. */
const controls: { [K in AnyControl['kind']]: ComponentType<ControlProps<K>> } = {
  tick: TickControl,
  choice: ChoiceControl,
  share: ShareControl,
  word: WordControl,
  words: WordsControl,
  colour: ColourControl,
  step: StepControl,
  number: NumberControl,
  'focal length': FocalLengthControl,
  span: SpanControl,
  levels: LevelsControl,
  plane: PlaneOfOptions,
  direction: DirectionControl,
  place: PlaceControl,
  quantity: QuantityControl,
  condition: ConditionControl,
  curve: CurveControl,
  named: NamedControl,
  pair: PairControl,
  range: RangeControl,
  map: MapControl,
  spacing: SpacingControl,
  'level lines': LevelLinesControl,
  beyond: BeyondControl,
  categories: CategoriesControl,
  unit: UnitControl,
  'scale opacity': ScaleOpacityControl,
  edges: EdgesControl,
  'layer time': LayerTimeControl,
  template: TemplateControl,
  image: ImageControl,
  enclosure: EnclosureControl,
  'body file': BodyFileControl,
  hook: HookControl,
  places: PlacesControl,
  part: PartControl,
  finish: FinishControl,
  'kept cameras': KeptCamerasControl,
  'placed lights': PlacedLightsControl,
};

/** One thing that can be told to an operation or to a thing of the scene; changes apply at once. */
export function OneControl({ control, set, at, ...rest }: ControlProps) {
  const Control = controls[control.kind] as ComponentType<ControlProps>;
  const setWithRest = (change: Options, key: string | null = null): void => {
    const also =
      control.key in change ? control.also?.(change[control.key], rest.setting, rest.options) : undefined;
    set({ ...change, ...also }, key);
  };
  const one = <Control control={control} set={setWithRest} {...rest} />;
  if (!at) return one;
  return (
    <div className="flex items-center gap-1">
      <div className="min-w-0 flex-1">{one}</div>
      <KeyDot at={at} control={control} />
    </div>
  );
}

/** All controls that have a meaning now, one below the other. */
export function Controls({
  controls: given,
  only,
  ...rest
}: Omit<ControlProps, 'control'> & { controls: readonly AnyControl[]; only?: (c: AnyControl) => boolean }) {
  return (
    <div className="flex flex-col gap-2">
      {given
        .filter((c) => (!c.when || c.when(rest.options, rest.setting)) && (!only || only(c)))
        .map((control) => (
          <OneControl key={`${control.key}/${control.label}`} control={control} {...rest} />
        ))}
    </div>
  );
}
