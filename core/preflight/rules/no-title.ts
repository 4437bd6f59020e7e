import type { Annotation } from '../../scene/annotations/registry.ts';
import { PICTURE, rule } from '../rule.ts';

const TITLES: readonly string[] = ['text', 'title-block', 'caption'];

/** A picture that does not say what it shows: alone in a mail nobody knows. */
export const noTitle = rule({
  id: 'no title',
  name: 'no title',
  severity: 'minor',
  of: 'scene',
  find({ scene }) {
    if (scene.annotations.some((a) => a.visible && TITLES.includes(a.kind))) return [];
    const annotation: Annotation = {
      id: 'title',
      kind: 'text',
      visible: true,
      text: '{scene}',
      align: 'left',
      x: 0.03,
      y: 0.06,
      size: 3,
      weight: 'medium',
      serif: false,
      ink: null,
      ground: 'as needed',
    };
    return [
      {
        place: PICTURE,
        says: 'Nothing on the picture says what it shows.',
        remedy: 'Write a title on it, or let the caption beside it say so.',
        mend: { says: 'Write the name of the scene', edits: [{ type: 'annotation.add', annotation }] },
      },
    ];
  },
});
