import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { writtenLook } from '../../scene/looks/look.ts';
import { lookOfScene, lookSettingOf } from '../../scene/looks/wear-look.ts';
import { hold } from '../../scene/reel/ease.ts';
import { LOOK } from '../keyed-values.ts';
import { type Beginning, settingOfBeginning } from './beginning.ts';

interface ChangeLook {
  /** Name of the look that is put on at the end of the time. */
  to: string;
}

const p = phrasesOf<ChangeLook>();

/** The scene keeps its look until then, and wears another from there on. */
export const changeLook: Beginning<ChangeLook> = {
  id: 'change looks',
  name: 'Change the look',
  purpose: 'from the look of the scene to another',
  schema: z.object({ to: z.string() }),
  defaults: ({ looks }) => (looks.length > 0 ? { to: looks[0].name } : 'There is no look to change to.'),
  phrase: p.row(p.text('change the look to '), {
    say: ({ to }) => [{ text: to, control: { kind: 'option', step: '', key: 'to' } }],
    read(reader, into, s) {
      const found = reader.name(settingOfBeginning(s).looks.map(({ name }) => ({ text: name, value: name })));
      if (found === undefined) return false;
      into.to = found;
      return true;
    },
  }),
  controls: ({ looks }) => [
    {
      kind: 'choice',
      key: 'to',
      label: 'To',
      choices: looks.map(({ name, purpose }) => ({ value: name, label: name, purpose })),
    },
  ],
  ease: hold,
  begin({ to }, { from, to: until }, { looks, scene, run }) {
    const look = looks.find((l) => l.name === to);
    if (!look) return { lanes: [] };
    const own = lookOfScene(scene, lookSettingOf(run), 'as the scene is');
    return {
      lanes: [
        {
          of: LOOK,
          keys: [
            { at: from, value: writtenLook(own), ease: hold },
            { at: until, value: writtenLook(look), ease: hold },
          ],
        },
      ],
    };
  },
};
