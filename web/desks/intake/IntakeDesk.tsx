import { FolderOpen, Trash2, Upload } from 'lucide-react';
import { type DragEvent, useRef, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { ask, followJob, type JobProgress, problemFrom } from '#web/desks/shared/requests.ts';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import type { Preview } from '#web/server/import-worker.ts';
import { type DroppedFile, filesOfChooser, filesOfDrop } from './dropped-files.ts';
import { ProposedRun, type RunChoices } from './ProposedRun.tsx';
import { ServerFolder } from './ServerFolder.tsx';

interface SavedScene {
  id: string;
  name: string;
  run: string;
  runName: string;
  changed: string;
  thumbnail: string | null;
}

interface Proposal {
  intake: string;
  previews: Preview[];
  problems: FileProblem[];
}

interface Work extends JobProgress {
  label: string;
  abort: AbortController;
}

/** Where results come in: drop, look at what they are, import; and the scenes that are there already. */
export function IntakeDesk({ saved }: { saved: SavedScene[] }) {
  const [over, setOver] = useState(false);
  const [work, setWork] = useState<Work | null>(null);
  const [proposal, setProposal] = useState<Proposal | null>(null);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const [scenes, setScenes] = useState(saved);
  const [browsing, setBrowsing] = useState(false);
  const fileInput = useRef<HTMLInputElement>(null);
  const folderInput = useRef<HTMLInputElement>(null);

  /** Runs long work with progress and cancel; a cancel leaves everything as it was. */
  const during = async (label: string, action: (w: Work) => Promise<void>) => {
    const abort = new AbortController();
    const begin: Work = { label, done: 0, remaining: null, abort };
    setWork(begin);
    setProblem(null);
    try {
      await action(begin);
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setProblem(problemFrom(error));
    } finally {
      setWork(null);
    }
  };

  const understand = async (intake: string, w: Work) => {
    const { job } = await ask<{ job: string }>(`/api/intake/${intake}/preview`, { method: 'POST' });
    const result = await followJob<Omit<Proposal, 'intake'>>(
      job,
      (p) => setWork({ ...w, label: 'Looking into the files', ...p }),
      w.abort.signal,
    );
    setProposal({ intake, ...result });
  };

  const takeFiles = (files: DroppedFile[]) =>
    during(`Taking in ${files.length} ${files.length === 1 ? 'file' : 'files'}`, async (w) => {
      if (files.length === 0) return;
      await discard();
      const { id } = await ask<{ id: string }>('/api/intake', { method: 'POST' });
      const total = files.reduce((n, f) => n + f.file.size, 0) || 1;
      let sent = 0;
      for (const { name, file } of files) {
        w.abort.signal.throwIfAborted();
        await ask(`/api/intake/${id}/files?name=${encodeURIComponent(name)}`, { method: 'PUT', body: file });
        sent += file.size;
        setWork({ ...w, done: sent / total });
      }
      await understand(id, w);
    });

  const takeServerPath = (path: string) =>
    during('Opening the folder', async (w) => {
      setBrowsing(false);
      await discard();
      const { id } = await ask<{ id: string }>('/api/intake', { method: 'POST' });
      await ask(`/api/intake/${id}/server-path`, { method: 'POST', json: { path } });
      await understand(id, w);
    });

  const discard = async () => {
    if (proposal) await ask(`/api/intake/${proposal.intake}`, { method: 'DELETE' }).catch(() => undefined);
    setProposal(null);
  };

  const importRun = (plan: number, choices: RunChoices) =>
    during(`Importing ${choices.name}`, async (w) => {
      const { job } = await ask<{ job: string }>(`/api/intake/${proposal!.intake}/import`, {
        method: 'POST',
        json: { plan, choices },
      });
      const { scene } = await followJob<{ scene: string }>(
        job,
        (p) => setWork({ ...w, ...p }),
        w.abort.signal,
      );
      if (proposal!.previews.length === 1) await discard();
      location.href = `/scene/${scene}`;
    });

  const removeScene = async (scene: SavedScene) => {
    const last = scenes.filter((s) => s.run === scene.run).length === 1;
    const what = last ? `“${scene.name}” and its imported run` : `“${scene.name}”`;
    if (!confirm(`Delete ${what}? The files it was read from stay.`)) return;
    await ask(last ? `/api/runs/${scene.run}` : `/api/scenes/${scene.id}`, { method: 'DELETE' });
    setScenes(scenes.filter((s) => s.id !== scene.id));
  };

  const onDrop = async (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    await takeFiles(await filesOfDrop(event.dataTransfer));
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the buttons offer the same to the keyboard
    <div
      className="flex h-screen flex-col"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={onDrop}
    >
      <TopBar desk="intake" stageHref={scenes[0] ? `/scene/${scenes[0].id}` : null} />
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-5xl px-8 py-8">
          <section
            aria-label="Bring in results"
            className={`flex items-center gap-8 rounded-2xl border-2 border-dashed px-8 py-7 transition ${over ? 'border-accent bg-accent-wash' : 'border-rule bg-sheet'}`}
          >
            <div className="flex-1">
              <h1 className="font-book text-[26px] leading-tight font-medium">Drop result files here</h1>
              <p className="mt-1.5 max-w-xl text-soft">
                One file, a numbered series, a collection or a whole folder. You see what they hold before
                anything is stored. Read: VTK XML unstructured grids (.vtu) and collections (.pvd).
              </p>
            </div>
            <div className="flex shrink-0 flex-col gap-2">
              <button type="button" className="act" onClick={() => fileInput.current?.click()}>
                <Upload size={16} /> Choose files
              </button>
              <div className="flex gap-2">
                <button type="button" className="quiet flex-1" onClick={() => folderInput.current?.click()}>
                  Folder
                </button>
                <button
                  type="button"
                  className="quiet flex-1"
                  onClick={() => setBrowsing(!browsing)}
                  aria-expanded={browsing}
                >
                  <FolderOpen size={16} /> Server
                </button>
              </div>
            </div>
            <input
              ref={fileInput}
              type="file"
              multiple
              hidden
              data-testid="file-input"
              onChange={(e) => {
                const files = filesOfChooser(e.target.files!);
                e.target.value = '';
                void takeFiles(files);
              }}
            />
            <input
              ref={folderInput}
              type="file"
              hidden
              {...{ webkitdirectory: '' }}
              onChange={(e) => {
                const files = filesOfChooser(e.target.files!);
                e.target.value = '';
                void takeFiles(files);
              }}
            />
          </section>

          {browsing && <ServerFolder onOpen={takeServerPath} />}
          {work && (
            <div className="mt-5 rounded-xl border border-rule bg-sheet px-5 py-4">
              <Progress
                {...work}
                onCancel={() => work.abort.abort(new DOMException('cancelled', 'AbortError'))}
              />
            </div>
          )}
          {problem && (
            <div className="mt-5">
              <ProblemNote problem={problem} />
            </div>
          )}
          {proposal && (
            <section aria-label="What the files hold" className="mt-6 flex flex-col gap-4">
              {gathered(proposal.problems).map((p) => (
                <ProblemNote key={`${p.file}${p.reason}`} problem={p} />
              ))}
              {proposal.previews.length === 0 && proposal.problems.length === 0 && (
                <p className="text-soft">No result files were found in this drop.</p>
              )}
              {proposal.previews.map((preview, i) => (
                <ProposedRun
                  key={preview.plan.name + preview.plan.steps.length}
                  preview={preview}
                  busy={work !== null}
                  onImport={(choices) => importRun(i, choices)}
                  onDiscard={discard}
                />
              ))}
            </section>
          )}

          {scenes.length > 0 && !proposal && (
            <section aria-label="Scenes" className="mt-9">
              <h2 className="head mb-3">Scenes</h2>
              <ul className="grid grid-cols-3 gap-5">
                {scenes.map((scene) => (
                  <SceneCard key={scene.id} scene={scene} onRemove={() => removeScene(scene)} />
                ))}
              </ul>
            </section>
          )}
        </div>
      </main>
    </div>
  );
}

/** Files with the same trouble are told of together. */
function gathered(problems: FileProblem[]): FileProblem[] {
  const groups = new Map<string, FileProblem[]>();
  for (const p of problems) {
    const key = `${p.reason}|${p.where}|${p.remedy}`;
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  return [...groups.values()].map((group) => {
    const names = group.map((p) => p.file);
    const file =
      names.length > 6 ? `${names.slice(0, 5).join(', ')} and ${names.length - 5} more` : names.join(', ');
    return { ...group[0], file };
  });
}

function SceneCard({ scene, onRemove }: { scene: SavedScene; onRemove(): void }) {
  const when = new Date(scene.changed).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  return (
    <li className="group relative overflow-hidden rounded-xl border border-rule bg-sheet transition hover:border-soft">
      <a href={`/scene/${scene.id}`} className="block">
        <div className="aspect-[3/2] bg-sunk">
          {scene.thumbnail ? (
            <img src={scene.thumbnail} alt={scene.name} className="size-full object-cover" />
          ) : (
            <div className="flex size-full items-center justify-center text-soft">
              Open to see its first picture
            </div>
          )}
        </div>
        <div className="px-4 py-3">
          <p className="truncate font-medium">{scene.name}</p>
          <p className="truncate text-soft">
            {scene.runName === scene.name ? '' : `${scene.runName}, `}
            {when}
          </p>
        </div>
      </a>
      <button
        type="button"
        className="mark absolute right-2 bottom-3 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
        onClick={onRemove}
        aria-label={`Delete ${scene.name}`}
        title="Delete"
      >
        <Trash2 size={16} />
      </button>
    </li>
  );
}
