import { type FinishOf, nameOfFinish } from '#core/light/own-finish.ts';
import { Chooser } from '../Chooser.tsx';
import { FinishChoices } from '../finishes/FinishChoices.tsx';
import type { ControlProps } from './control-props.ts';
import { Row } from './VectorControls.tsx';

/** The finish of a line or a part. */
export function FinishControl({ control, options, set }: ControlProps<'finish'>) {
  const now = options[control.key] as FinishOf;
  return (
    <Row label={control.label}>
      <Chooser word={now === null ? control.none : nameOfFinish(now)} label="The finish" wide>
        <FinishChoices
          finish={now}
          none={control.none}
          onChange={(finish, key = null) => set({ [control.key]: finish }, key)}
        />
      </Chooser>
    </Row>
  );
}
