import { FolderOpen, Upload } from 'lucide-react';
import { type DragEvent, useEffect, useRef, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, followJob, type JobProgress, problemFrom } from '#engine/server-requests.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { useRemoving } from '#web/desks/shared/removing.tsx';
import { SkipLinks } from '#web/desks/shared/SkipLinks.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import type { ArrangeWish, Preview } from '#web/server/reading-jobs.ts';
import type { SavedScene } from '#web/server/saved-scenes.ts';
import type { SwapProposal } from '#web/server/swap-run.ts';
import { type DroppedFile, filesOfChooser, filesOfDrop } from './dropped-files.ts';
import { ProposedRun, type RunChoices } from './ProposedRun.tsx';
import { reopenPicture } from './reopen-picture.ts';
import { SceneCards } from './SceneCards.tsx';
import { ServerFolder } from './ServerFolder.tsx';
import { SwapReview, swapIn } from './SwapReview.tsx';
import { type LooseRun, TableCards } from './TableCards.tsx';

interface Proposal {
  intake: string;
  previews: Preview[];
  problems: FileProblem[];
  /** Proposed runs the person does not want. */
  hidden?: Preview[];
}

interface Work extends JobProgress {
  label: string;
  abort: AbortController;
}

/** Where results come in: drop, look at what they are, import; and the scenes that are there already. */
export function IntakeDesk({ saved, tables }: { saved: SavedScene[]; tables: LooseRun[] }) {
  const [runs, setRuns] = useState(tables);
  const [over, setOver] = useState(false);
  const [work, setWork] = useState<Work | null>(null);
  const [proposal, setProposal] = useState<Proposal | null>(null);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const [browsing, setBrowsing] = useState(false);
  const [marked, setMarked] = useState<Set<Preview>>(new Set());
  /** Units of lengths that were said by hand. */
  const lengthUnits = useRef(new Map<Preview, string>());
  const [swap, setSwap] = useState<{ run: string; name: string } | null>(null);
  const [review, setReview] = useState<SwapProposal | null>(null);
  const fileInput = useRef<HTMLInputElement>(null);
  const folderInput = useRef<HTMLInputElement>(null);

  useEffect(() => {
    const run = new URLSearchParams(location.search).get('swap');
    if (!run) return;
    ask<{ name: string }>(`/api/runs/${run}`)
      .then(({ name }) => setSwap({ run, name }))
      .catch((error) => setProblem(problemFrom(error)));
  }, []);

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
    setMarked(new Set());
    setProposal({ intake, ...result });
  };

  /** Puts the files of some proposed runs together in another way. */
  const rearrange = (plans: number[], wish: ArrangeWish) =>
    during('Looking at it that way', async (w) => {
      const { job } = await ask<{ job: string }>(`/api/intake/${proposal!.intake}/arrange`, {
        method: 'POST',
        json: { plans, ...wish },
      });
      const result = await followJob<Omit<Proposal, 'intake'>>(
        job,
        (p) => setWork({ ...w, ...p }),
        w.abort.signal,
      );
      setMarked(new Set());
      setProposal({ intake: proposal!.intake, ...result });
    });

  const together = (as: ArrangeWish['as']) => {
    const chosen = proposal!.previews.flatMap((p, i) => (marked.has(p) ? [i] : []));
    return rearrange(chosen, {
      as,
      times: { kind: 'stated' },
      reading: null,
      apart: [],
      lengthUnits: chosen.map((i) => lengthUnits.current.get(proposal!.previews[i]) || null),
    });
  };

  const takeFiles = (files: DroppedFile[]) =>
    during(`Taking in ${files.length} ${files.length === 1 ? 'file' : 'files'}`, async (w) => {
      if (files.length === 0) return;
      await discard();
      const reopened = files.length === 1 && !swap ? await reopenPicture(files[0].file) : null;
      if (reopened && 'scene' in reopened) {
        location.href = `/scene/${reopened.scene}`;
        return;
      }
      const { id } = await ask<{ id: string }>('/api/intake', { method: 'POST' });
      const total = files.reduce((n, f) => n + f.file.size, 0) || 1;
      let sent = 0;
      const waiting = [...files];
      // A few at once: many small files would otherwise wait for each other's answers.
      const send = async (): Promise<void> => {
        for (let next = waiting.shift(); next; next = waiting.shift()) {
          w.abort.signal.throwIfAborted();
          const { name, file } = next;
          await ask(`/api/intake/${id}/files?name=${encodeURIComponent(name)}`, {
            method: 'PUT',
            body: file,
          });
          sent += file.size;
          setWork({ ...w, done: sent / total });
        }
      };
      await Promise.all([send(), send(), send(), send()]);
      await understand(id, w);
      if (reopened) setProblem(reopened.problem);
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
        json: { plan, choices, swap: swap?.run ?? null },
      });
      const result = await followJob<Imported | SwapProposal>(
        job,
        (p) => setWork({ ...w, ...p }),
        w.abort.signal,
      );
      if (proposal!.previews.length === 1) await discard();
      if ('content' in result) {
        setProposal(null);
        if (result.lacking.length + result.mismatches.length > 0) setReview(result);
        else await swapIn(result, { fields: {}, parts: {} });
        return;
      }
      location.href = addressOf(result);
    });

  /** Takes in every proposed run as it stands. */
  const importAll = () =>
    during('Importing all', async (w) => {
      const { intake, previews } = proposal!;
      const all: Imported[] = [];
      for (const [i, preview] of previews.entries()) {
        if (proposal!.hidden?.includes(preview)) continue;
        const { job } = await ask<{ job: string }>(`/api/intake/${intake}/import`, {
          method: 'POST',
          json: { plan: i, choices: { name: preview.plan.name }, swap: null },
        });
        const label = `Importing ${preview.plan.name}, ${i + 1} of ${previews.length}`;
        const made = await followJob<Imported>(
          job,
          (p) => setWork({ ...w, label, done: (i + p.done) / previews.length }),
          w.abort.signal,
        );
        all.push(made);
      }
      await discard();
      const first = all.find((one) => one.scene) ?? all[0];
      // Runs that come with what was chosen for each are looked at together.
      const areSet = all.length > 1 && previews.some((p) => p.plan.parameters.length > 0);
      location.href = areSet ? await addressOfSet(all, previews) : first ? addressOf(first) : '/';
    });

  const { remove, notice } = useRemoving(({ id }, removed) =>
    setRuns((all) =>
      removed ? all.filter((r) => r.id !== id) : tables.filter((r) => r.id === id || all.includes(r)),
    ),
  );

  /** What was read for the swap is not needed; the run stays as it was. */
  const leaveSwap = async () => {
    await ask(`/api/runs/${review!.content}`, { method: 'DELETE' }).catch(() => undefined);
    location.href = `/run/${swap!.run}`;
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
      <SkipLinks to={[{ id: 'scenes', name: 'the scenes' }]} />
      <TopBar desk="intake" stageHref={saved[0] ? `/scene/${saved[0].id}` : null} />
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-5xl px-8 py-8">
          <section
            aria-label="Bring in results"
            className={`flex items-center gap-8 rounded-2xl border-2 border-dashed px-8 py-7 transition ${over ? 'border-accent bg-accent-wash' : 'border-rule bg-sheet'}`}
          >
            <div className="flex-1">
              <h1 className="font-book text-[26px] leading-tight font-medium">Drop result files here</h1>
              <p className="mt-1.5 max-w-xl text-soft">
                One file, a numbered series, partitions, a case folder or an archive. You see what they hold
                before anything is stored. Read: VTK, CGNS, XDMF, NetCDF and Exodus, Gmsh, finite-volume
                cases, .frd, tables, atoms, STL, PLY, OBJ, glTF and pictures; zipped as well.
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

          {swap && !review && (
            <p className="mt-4 rounded-lg bg-accent-wash px-4 py-2.5">
              The files you bring in now take the place of those of <strong>{swap.name}</strong>. Its scenes
              stay.{' '}
              <a className="word" href={`/run/${swap.run}`}>
                Leave them as they are
              </a>
            </p>
          )}
          {swap && review && <SwapReview name={swap.name} proposal={review} onLeave={leaveSwap} />}
          {browsing && (
            <div className="mt-4">
              <ServerFolder onOpen={takeServerPath} />
            </div>
          )}
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
              {proposal.previews.length > 1 && !swap && (
                <div className="flex flex-wrap items-center gap-3">
                  <p className="flex-1">{proposal.previews.length} runs were found.</p>
                  {marked.size > 1 && (
                    <>
                      <button type="button" className="quiet" onClick={() => together('parts')}>
                        Put {marked.size} together as parts
                      </button>
                      <button type="button" className="quiet" onClick={() => together('steps')}>
                        … one after another
                      </button>
                    </>
                  )}
                  <button type="button" className="quiet" onClick={discard}>
                    Leave all
                  </button>
                  <button type="button" className="act" disabled={work !== null} onClick={importAll}>
                    Import all {proposal.previews.length}
                  </button>
                </div>
              )}
              {proposal.previews.map((preview, i) =>
                proposal.hidden?.includes(preview) ? null : (
                  <ProposedRun
                    key={identityOf(preview)}
                    preview={preview}
                    busy={work !== null}
                    act={swap ? 'Swap in' : 'Import'}
                    marked={proposal.previews.length > 1 ? marked.has(preview) : null}
                    onMark={(on) => {
                      const next = new Set(marked);
                      if (on) next.add(preview);
                      else next.delete(preview);
                      setMarked(next);
                    }}
                    onLengthUnit={(unit) => lengthUnits.current.set(preview, unit)}
                    onArrange={(wish) => rearrange([i], wish)}
                    onImport={(choices) => importRun(i, choices)}
                    onDiscard={() =>
                      proposal.previews.length > 1
                        ? setProposal({ ...proposal, hidden: [...(proposal.hidden ?? []), preview] })
                        : void discard()
                    }
                  />
                ),
              )}
            </section>
          )}

          {!proposal && <SceneCards saved={saved} busy={work !== null} />}
          {!proposal && notice}
          {runs.length > 0 && !proposal && (
            <TableCards runs={runs} onRemove={({ id, name }) => remove({ id, name, kind: 'run' })} />
          )}
        </div>
      </main>
    </div>
  );
}

/** What an import answers: the run and its first scene. */
interface Imported {
  run: string;
  scene: string | null;
}

/** Makes a set of runs, called by what their names begin with. */
async function addressOfSet(all: readonly Imported[], previews: readonly Preview[]): Promise<string> {
  const names = previews.map((p) => p.plan.name);
  const [first, ...others] = names;
  let alike = first;
  for (const name of others) while (!name.startsWith(alike)) alike = alike.slice(0, -1);
  const name = alike.replace(/[^\p{L}]+$/u, '') || 'Runs';
  const { id } = await ask<{ id: string }>('/api/sets', {
    method: 'POST',
    json: { name, runs: all.map(({ run }) => run) },
  });
  return `/sheets/${id}`;
}

const addressOf = ({ run, scene }: Imported): string => (scene ? `/scene/${scene}` : `/run/${run}`);

/** What stays the same while times are corrected, so that what was typed stays too. */
const identityOf = ({ plan }: Preview): string =>
  JSON.stringify([plan.name, plan.arrangement, plan.steps.map((s) => s.files), plan.tables, plan.reading]);

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
