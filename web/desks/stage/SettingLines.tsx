import type { SentencePiece } from '#core/language/sentence.ts';
import { settingOf } from '#core/scene/setting.ts';
import { type AnySceneThing, sceneThing, sceneThings } from '#core/scene/things/registry.ts';
import { MovesMark } from '#web/desks/reel/KeyDot.tsx';
import { Chooser } from './Chooser.tsx';
import type { AnyControl, Options } from './controls/control-props.ts';
import { Controls } from './controls/OneControl.tsx';
import { edit, useRun, useScene } from './desk-store.ts';
import { TriedOut } from './try-out.ts';

const lines = ['light', 'lens', 'words'] as const;

/** What is slid, or has three numbers beside one another. */
const roomy: ReadonlySet<AnyControl['kind']> = new Set([
  'number',
  'focal length',
  'place',
  'kept cameras',
] as const);

/** What the scene has one of, in sentences: "Studio light, shadow on the floor, on paper." */
export function SettingLines() {
  const scene = useScene();
  const run = useRun();
  const setting = settingOf(run, scene);
  return lines.map((line) => (
    <p key={line}>
      {sceneThings
        .filter((thing) => thing.line === line)
        .flatMap((thing) => thing.phrase.say(scene[thing.id], setting) ?? [])
        .map((piece, i) => (
          <Piece key={i} piece={piece} />
        ))}
      .
    </p>
  ));
}

function Piece({ piece: { text, control } }: { piece: SentencePiece }) {
  if (control?.kind !== 'setting') return text;
  const thing = sceneThing(control.thing);
  return (
    <>
      <Chooser
        word={text}
        label={`${thing.name[0].toUpperCase()}${thing.name.slice(1)}`}
        wide={thing.controls.some((c) => roomy.has(c.kind))}
      >
        <ThingControls thing={thing} />
      </Chooser>
      <MovesMark of={[thing.id]} />
    </>
  );
}

/** Edits all there is to a thing of the scene, but for where it stands. */
export function ThingControls({ thing }: { thing: AnySceneThing }) {
  const scene = useScene();
  const run = useRun();
  const controls = (
    <Controls
      controls={(thing.controls as AnyControl[]).filter((c) => c.key !== 'x' && c.key !== 'y')}
      options={scene[thing.id] as unknown as Options}
      setting={settingOf(run, scene)}
      at={[thing.id]}
      set={(change, key = null) =>
        edit({ type: 'setting.change', thing: thing.id, change }, key && `${key}-${thing.id}`)
      }
    />
  );
  // The style of a scene changes nothing that takes long to be made.
  return <TriedOut value={thing.style !== undefined}>{controls}</TriedOut>;
}
