import { Palette, Star, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Look } from '#core/scene/looks/look.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { type LookSetting, lookOfScene, lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { Chooser } from '../Chooser.tsx';
import { edit, sceneNow, useDesk } from '../desk-store.ts';
import { KeepUnderName } from '../KeepUnderName.tsx';
import { useTryOut } from '../try-out.ts';
import { beginScenesWith, keepLook, loadLooks, removeStyle, useKeptStyles } from './kept-styles.ts';
import { LookSwatch } from './LookSwatch.tsx';

/** What a look must know of the run of the scene. */
const lookSetting = (): LookSetting => lookSettingOf(useDesk.getState().run);

const wear = (look: Look): void => edit({ type: 'look.wear', look, on: lookSetting() });

/** Looks to put on: those that ship and those that were kept; and the look of the scene, to be kept. */
export function LooksChooser() {
  return (
    <Chooser
      wide
      label="Looks"
      look="quiet h-7 px-2.5 text-[13px]"
      word={
        <>
          <Palette size={14} /> Looks
        </>
      }
    >
      <Looks />
    </Chooser>
  );
}

function Looks() {
  const { looks, newScenes } = useKeptStyles();
  const [worn, setWorn] = useState<{ name: string; unmatched: string[] } | null>(null);
  useEffect(() => void loadLooks(), []);
  const put = (look: Look): void => {
    const { unmatched } = withLook(sceneNow(), look, lookSetting());
    wear(look);
    setWorn({ name: look.name, unmatched });
  };
  return (
    <div className="flex flex-col gap-2">
      <p className="text-xs text-soft">
        How a scene looks, whatever it shows. Point at one to see it here; click to put it on. The star is for
        the look new scenes begin with.
      </p>
      {worn && worn.unmatched.length > 0 && (
        <div role="status" className="rounded-md bg-accent-wash px-2.5 py-1.5 text-xs">
          <p className="font-medium">“{worn.name}” is put on, but for:</p>
          <ul className="list-disc pl-4">
            {worn.unmatched.map((what) => (
              <li key={what}>{what}</li>
            ))}
          </ul>
        </div>
      )}
      <KeepUnderName
        label="Name of the look"
        hint="Keep the look of this scene as …"
        says={(name) => (looks.some((l) => l.name === name) ? 'Replace' : 'Keep')}
        onKeep={(name) => void keepLook(lookOfScene(sceneNow(), lookSetting(), name))}
      />
      {looks.length > 0 && (
        <fieldset>
          <legend className="head px-1">own</legend>
          {looks.map((kept) => (
            <LookRow
              key={kept.id}
              look={kept.document}
              usual={newScenes === kept.id}
              onWear={put}
              onUsual={() => void beginScenesWith(kept.id)}
              onRemove={() => void removeStyle('look', kept)}
            />
          ))}
        </fieldset>
      )}
      <fieldset>
        {looks.length > 0 && <legend className="head px-1">that ship</legend>}
        {shippedLooks.map((look) => (
          <LookRow
            key={look.id}
            look={look}
            usual={newScenes === look.id}
            onWear={put}
            onUsual={() => void beginScenesWith(look.id)}
          />
        ))}
      </fieldset>
    </div>
  );
}

interface RowProps {
  look: Look;
  /** Whether new scenes begin with it. */
  usual: boolean;
  onWear(look: Look): void;
  onUsual(): void;
  onRemove?(): void;
}

function LookRow({ look, usual, onWear, onUsual, onRemove }: RowProps) {
  const trial = useTryOut(() => wear(look));
  return (
    <div className="flex items-center rounded-md hover:bg-sunk">
      <button
        type="button"
        className="flex min-w-0 flex-1 items-center gap-2.5 rounded-md px-1.5 py-1 text-left"
        {...trial}
        onClick={() => onWear(look)}
      >
        <LookSwatch look={look} />
        <span className="min-w-0">
          {look.name}
          {look.purpose && <span className="block text-xs leading-snug text-soft">{look.purpose}</span>}
        </span>
      </button>
      {onRemove && (
        <button
          type="button"
          className="mark"
          aria-label={`Take away ${look.name}`}
          title="Take it away; scenes that wear it stay as they are"
          onClick={onRemove}
        >
          <Trash2 size={14} />
        </button>
      )}
      <button
        type="button"
        className="mark"
        aria-pressed={usual}
        aria-label={`New scenes begin with ${look.name}`}
        title={usual ? 'New scenes begin with it' : 'Let new scenes begin with it'}
        onClick={onUsual}
      >
        <Star size={14} className={usual ? 'fill-accent text-accent' : ''} />
      </button>
    </div>
  );
}
