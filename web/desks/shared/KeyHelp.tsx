import { CircleHelp, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';

export interface KeyGroup {
  name: string;
  keys: [keys: string, does: string][];
}

/** The keys of a desk, listed under “?”. */
export function KeyHelp({ groups }: { groups: readonly KeyGroup[] }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).matches('input:not([type=range]), textarea, select');
      if (event.key === '?' && !typing && !event.ctrlKey && !event.metaKey) setOpen(true);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="mark" aria-label="Keys" title="Keys (?)">
        <CircleHelp size={17} />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="card fixed top-1/2 left-1/2 z-50 max-h-[86vh] w-[620px] -translate-x-1/2 -translate-y-1/2 overflow-y-auto p-6"
        >
          <div className="flex items-baseline">
            <Dialog.Title className="flex-1 font-book text-[21px] font-medium">Keys</Dialog.Title>
            <Dialog.Close className="mark" aria-label="Close">
              <X size={17} />
            </Dialog.Close>
          </div>
          <div className="mt-3 grid grid-cols-2 gap-x-8 gap-y-5">
            {groups.map(({ name, keys }) => (
              <section key={name} aria-label={name}>
                <h3 className="head mb-1">{name}</h3>
                <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
                  {keys.map(([key, does]) => (
                    <div key={key} className="contents">
                      <dt>
                        <kbd className="rounded border border-rule bg-sunk px-1.5 text-xs whitespace-nowrap">
                          {key}
                        </kbd>
                      </dt>
                      <dd className="text-soft">{does}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
