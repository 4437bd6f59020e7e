import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';

export interface PictureShape {
  /** Width over height; null fills the stage. */
  aspect: number | null;
}

const shapes: { value: number | null; label: string }[] = [
  { value: null, label: 'picture as wide as the stage' },
  { value: 16 / 9, label: 'picture of 16 to 9' },
  { value: 3 / 2, label: 'picture of 3 to 2' },
  { value: 4 / 3, label: 'picture of 4 to 3' },
  { value: 1, label: 'square picture' },
  { value: 9 / 16, label: 'picture of 9 to 16' },
];

function sayShape(aspect: number | null): string {
  const found = shapes.find(
    ({ value }) => value === aspect || (value && aspect && Math.abs(value - aspect) < 1e-3),
  );
  return found?.label ?? `picture of ${aspect!.toFixed(2)} to 1`;
}

const p = phrasesOf<PictureShape>();

export const pictureShape: SceneThing<PictureShape, 'picture'> = {
  id: 'picture',
  name: 'the shape of the picture',
  line: 'words',
  schema: z.object({ aspect: boundedNumber().min(0.1).max(10).nullable() }),
  plain: { aspect: null },
  defaults: () => ({ aspect: null }),
  opening: 'Picture ',
  phrase: p.styled(
    ({ aspect }) => [
      words(' on a '),
      { text: sayShape(aspect), control: { kind: 'setting', thing: 'picture' } },
    ],
    p.row(p.number('aspect'), p.text(' times as wide as high')),
  ),
  silent: ({ aspect }) => aspect === null,
  controls: [{ kind: 'choice', key: 'aspect', label: 'Shape of the picture', choices: shapes }],
};
