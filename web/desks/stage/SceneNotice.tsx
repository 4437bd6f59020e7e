import type { Scene } from '#core/scene/document.ts';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { NoticeBar, SaveNotice } from '#web/desks/shared/SaveNotice.tsx';
import { useDesk } from './desk-store.ts';

/** What the person must know about how the scene is kept: not saved, changed elsewhere, or repaired. */
export function SceneNotice({ saver }: { saver: DocumentSaver<Scene> }) {
  const save = useDesk((s) => s.save);
  const repairs = useDesk((s) => s.repairs);
  if (save.kind === 'conflict' || save.kind === 'failed')
    return <SaveNotice what="scene" save={save} saver={saver} />;
  if (repairs.length > 0)
    return (
      <NoticeBar>
        <div className="min-w-0 flex-1">
          <p>The saved scene did not fit and was repaired. What it was is kept among its earlier states.</p>
          <ul className="max-h-24 list-disc overflow-y-auto pl-5 text-sm">
            {repairs.map((repair) => (
              <li key={repair}>{repair}</li>
            ))}
          </ul>
        </div>
        <button type="button" className="quiet h-8" onClick={() => useDesk.setState({ repairs: [] })}>
          Good
        </button>
      </NoticeBar>
    );
  return null;
}
