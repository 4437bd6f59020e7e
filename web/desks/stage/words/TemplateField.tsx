import { measuredOnPicture } from '#core/scene/annotations/measured-on-picture.ts';
import { templateCompletions, templateTroubles } from '#core/scene/annotations/template.ts';
import type { Here } from '#core/scene/annotations/template-words.ts';
import { ValuesField } from '#web/desks/shared/ValuesField.tsx';
import { useRun, useScene } from '../desk-store.ts';

interface Props {
  label: string;
  value: string;
  /** Whether it may have several lines. */
  lines: boolean;
  /** What the place where it stands has to tell. */
  here: Here | null;
  /** Told of every letter. */
  onChange(text: string): void;
  /** Enter or Escape was pressed, or it was left. */
  onDone?(): void;
}

/** Words on the picture, with values of the scene in braces. */
export function TemplateField({ here, ...field }: Props) {
  const run = useRun();
  const scene = useScene();
  const setting = { run, scene, step: scene.step, here, measured: measuredOnPicture(scene, run) };
  return (
    <ValuesField
      {...field}
      completions={(text, caret) => templateCompletions(text, caret, setting)}
      troubles={templateTroubles(field.value, setting)}
    />
  );
}
