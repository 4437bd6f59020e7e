import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { OfferedKinds } from './OfferedKinds.tsx';

interface Props<Id extends string> {
  title: string;
  kinds: readonly { id: Id; offered: string; purpose: string }[];
  onChoose(id: Id): void;
  /** Said below them. */
  children?: ReactNode;
}

/** Adds one of a list: what kinds there are, each with what it is for. */
export function AddKind<Id extends string>({ title, kinds, onChoose, children }: Props<Id>) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="mx-1 my-1 inline-flex items-center gap-1.5 rounded-full px-2 py-0.5 font-medium text-accent hover:bg-accent-wash">
        <Plus size={15} /> {title}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={8}
          collisionPadding={12}
          className="card z-50 max-h-[86vh] w-[400px] overflow-y-auto p-3"
          // What was added opens its own settings.
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          <OfferedKinds
            kinds={kinds.map(({ id, offered, purpose }) => ({ id, name: offered, purpose }))}
            onChoose={({ id }) => {
              setOpen(false);
              onChoose(id);
            }}
          />
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
