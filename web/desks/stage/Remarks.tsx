import { CircleAlert } from 'lucide-react';
import { Popover } from 'radix-ui';
import { remarksOn } from '#core/scene/honesty/registry.ts';
import { useDesk, useRun, useScene } from './desk-store.ts';

/** What should be known about the picture before it is shown to somebody; nothing while there is nothing. */
export function Remarks() {
  const scene = useScene();
  const run = useRun();
  const remarks = remarksOn(
    scene,
    run,
    scene.step,
    useDesk((s) => s.spreads),
  );
  if (remarks.length === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="flex h-7 items-center gap-1.5 rounded-full px-2.5 text-sm whitespace-nowrap text-warn hover:bg-sunk"
        data-testid="remarks"
      >
        <CircleAlert size={15} />
        {remarks.length === 1 ? '1 thing to know' : `${remarks.length} things to know`}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="end"
          sideOffset={8}
          collisionPadding={12}
          aria-label="Things to know about the picture"
          className="card z-50 flex w-96 flex-col gap-3 p-4"
        >
          {remarks.map(({ rule, says, remedy }, i) => (
            <div key={`${rule}${i}`}>
              <p className="font-medium">{says}</p>
              <p className="text-sm text-soft">{remedy}</p>
            </div>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
