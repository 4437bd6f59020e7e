import { X } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { useDesk, useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { BodiesTab } from './BodiesTab.tsx';
import { FilmTab } from './FilmTab.tsx';
import type { GiveOutProps } from './give-out-props.ts';
import { PageTab } from './PageTab.tsx';
import { SceneTab } from './SceneTab.tsx';
import { StillTab } from './StillTab.tsx';

/**
 * Everything that leaves the house: a still, a film, a page. It stands in the place of the scene's lines, so that the
 * stage keeps its size and the composition stays as it is.
 */
export function GiveOut(props: GiveOutProps) {
  const plays = useRun().steps.length > 1 || playsInCycle(useScene()).moves;
  const tab = (value: string, name: string) => (
    <Tabs.Trigger
      value={value}
      className="border-b-2 border-transparent px-1 pt-2 pb-1.5 text-soft hover:text-ink data-[state=active]:border-accent data-[state=active]:font-semibold data-[state=active]:text-ink"
    >
      {name}
    </Tabs.Trigger>
  );
  return (
    <aside aria-label="Give out" className="flex w-[340px] shrink-0 flex-col border-r border-rule bg-paper">
      <Tabs.Root defaultValue="still" className="flex min-h-0 flex-1 flex-col">
        <div className="flex items-center border-b border-rule pr-2 pl-4">
          <Tabs.List aria-label="Kinds" className="flex flex-1 gap-4">
            {tab('still', 'Still')}
            {plays && tab('film', 'Film')}
            {tab('page', 'Page')}
            {tab('bodies', '3D')}
            {tab('scene', 'Scene file')}
          </Tabs.List>
          <button
            type="button"
            className="mark"
            aria-label="Back to the scene"
            title="Back to the scene"
            onClick={() => useDesk.setState({ giveOut: false })}
          >
            <X size={17} />
          </button>
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto p-4">
          <Tabs.Content value="still" tabIndex={-1}>
            <StillTab {...props} />
          </Tabs.Content>
          <Tabs.Content value="film" tabIndex={-1}>
            <FilmTab {...props} />
          </Tabs.Content>
          <Tabs.Content value="page" tabIndex={-1}>
            <PageTab {...props} />
          </Tabs.Content>
          <Tabs.Content value="bodies" tabIndex={-1}>
            <BodiesTab {...props} />
          </Tabs.Content>
          <Tabs.Content value="scene" tabIndex={-1}>
            <SceneTab />
          </Tabs.Content>
        </div>
      </Tabs.Root>
    </aside>
  );
}
