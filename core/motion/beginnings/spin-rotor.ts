import { phrasesOf } from '../../language/phrase.ts';
import type { Name } from '../../language/sentence-reader.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { secondsIn } from '../../model/units.ts';
import { understood } from '../../ops/chain/understood.ts';
import type { Scene } from '../../scene/document.ts';
import { even } from '../../scene/reel/ease.ts';
import { type Beginning, type BeginningSetting, settingOfBeginning } from './beginning.ts';

interface SpinRotor {
  /** Ids of the line and of its operation that turns. */
  line: string;
  step: string;
  /** Turns a minute, as it turns in reality. */
  speed: number;
  /** How many times slower it is shown. */
  slower: number;
}

const p = phrasesOf<SpinRotor>();

interface Rotor extends Name<Pick<SpinRotor, 'line' | 'step'>> {
  /** Of the option that turns it, and how far it is turned. */
  key: string;
  now: number;
}

/** Operations that turn what they show, by what sentences call them. */
function rotorsOf(scene: Scene): Rotor[] {
  return scene.layers.flatMap((layer, i) =>
    layer.chain.flatMap((step) => {
      const known = understood(step);
      const key = known?.operation.traits?.turnsBy?.(known.options);
      if (!known || !key) return [];
      return [
        { text: `line ${i + 1}`, value: { line: layer.id, step: step.id }, key, now: known.options[key] },
      ];
    }),
  );
}

/** The speed of a rotor whose frame was stated, in turns a minute; null where none was. */
function statedSpeed({ run }: BeginningSetting): number | null {
  const frame = run.parts.find((part) => part.frame)?.frame;
  if (!frame) return null;
  const second = (run.timeUnit && secondsIn[run.timeUnit]) || 1;
  return (Math.abs(frame.rate) / second) * (60 / (2 * Math.PI));
}

/** A rotor of which one sector is repeated turns at its speed, or so many times slower. */
export const spinRotor: Beginning<SpinRotor> = {
  id: 'spin a rotor',
  name: 'Spin a rotor',
  purpose: 'what is repeated around an axis turns at its speed',
  schema: z.object({
    line: z.string(),
    step: z.string(),
    speed: boundedNumber(),
    slower: boundedNumber().positive(),
  }),
  defaults(setting) {
    const [rotor] = rotorsOf(setting.scene);
    if (!rotor) return 'Nothing in this scene is repeated around an axis. Repeat the rotor first.';
    const speed = Number((statedSpeed(setting) ?? 60).toPrecision(6));
    // Faster than this the eye, and the pictures, do not follow. Common practice, no source.
    const slower = Math.max(1, Math.ceil(speed / 60));
    return { ...rotor.value, speed, slower };
  },
  phrase: p.row(
    p.text('spin '),
    {
      say: ({ line }, s) => {
        const found = rotorsOf(settingOfBeginning(s).scene).find((r) => r.value.line === line);
        return [
          { text: found?.text ?? 'a line that is gone', control: { kind: 'option', step: '', key: 'line' } },
        ];
      },
      read(reader, into, s) {
        const found = reader.name(rotorsOf(settingOfBeginning(s).scene));
        if (!found) return false;
        Object.assign(into, found);
        return true;
      },
    },
    p.text(' at '),
    p.number('speed'),
    p.text(' turns a minute'),
    p.suffixes({ usual: { slower: 1 }, phrase: p.row(p.number('slower'), p.text(' times slower')) }),
  ),
  controls: ({ scene }) => [
    {
      kind: 'choice',
      key: 'line',
      label: 'What turns',
      choices: rotorsOf(scene).map(({ text, value }) => ({ value: value.line, label: text })),
      also: (line) => rotorsOf(scene).find((r) => r.value.line === line)?.value ?? {},
    },
    { kind: 'number', key: 'speed', label: 'Turns a minute', range: () => [1, 3000] },
    { kind: 'number', key: 'slower', label: 'Times slower', range: () => [1, 100] },
  ],
  ease: even,
  begin({ line, step, speed, slower }, { from, to, ease }, { scene }) {
    const rotor = rotorsOf(scene).find((r) => r.value.line === line && r.value.step === step);
    if (!rotor) return { lanes: [] };
    const turn = (360 * speed * (to - from)) / (60 * slower);
    return {
      lanes: [
        {
          of: ['layers', line, 'chain', step, rotor.key],
          keys: [
            { at: from, value: rotor.now, ease },
            { at: to, value: rotor.now + turn, ease: even },
          ],
        },
      ],
    };
  },
};
