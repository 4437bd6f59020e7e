import { Undo2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { ask, problemFrom } from '#engine/server-requests.ts';

interface Former {
  content: string;
  name: string;
  since: string;
}

/** The way back after the files of a run were swapped, as long as its former content is kept. */
export function FormerFiles({ run, onTrouble }: { run: string; onTrouble(text: string): void }) {
  const [former, setFormer] = useState<Former | null>(null);
  useEffect(() => {
    ask<{ former: Former | null }>(`/api/runs/${run}/swap`).then(
      (a) => setFormer(a.former),
      () => undefined,
    );
  }, [run]);
  if (!former) return null;
  const when = new Date(former.since).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  const back = async () => {
    try {
      await ask(`/api/runs/${run}/swap`, { method: 'POST', json: { content: former.content } });
      location.reload();
    } catch (error) {
      const { reason, remedy } = problemFrom(error);
      onTrouble(`The former files were not taken back: ${reason}. ${remedy}`);
    }
  };
  return (
    <button
      type="button"
      className="quiet h-8"
      title={`Its files were swapped on ${when}; before, it was ${former.name}`}
      onClick={back}
    >
      <Undo2 size={15} /> Undo the swap
    </button>
  );
}
