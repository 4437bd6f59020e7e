import { useState } from 'react';
import { fileName } from '#core/language/file-name.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import { enclosuresIn } from '#core/scene/enclosure.ts';
import { writeSceneFile } from '#core/scene/scene-file.ts';
import { writeScript } from '#core/scene/scene-script.ts';
import { bringEnclosed } from '#engine/enclosed.ts';
import { problemFrom } from '#engine/server-requests.ts';
import { dataAddress } from '#web/desks/shared/data-address.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { openSceneFile } from '#web/desks/stage/open-scene-file.ts';

/** The scene as one file: for another run, another installation, or the command line. */
export function SceneTab() {
  const scene = useScene();
  const run = useRun();
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const [missing, setMissing] = useState<string[] | null>(null);

  const saveWords = () =>
    saveFile(
      new Blob([writeScript(scene, run)], { type: 'text/plain' }),
      `${fileName(scene.name)}.scene.txt`,
    );

  const save = async () => {
    setProblem(null);
    try {
      const enclosed = await Promise.all(
        enclosuresIn(scene).map(async (e) => new Blob([await bringEnclosed(e)])),
      );
      const base64 = await Promise.all(enclosed.map(async (b) => (await dataAddress(b)).split(',')[1]));
      const text = writeSceneFile(scene, base64);
      saveFile(new Blob([text], { type: 'application/json' }), `${fileName(scene.name)}.scene.json`);
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };

  const open = async (file: File) => {
    setProblem(null);
    setMissing(null);
    try {
      setMissing(await openSceneFile(file, run));
    } catch (error) {
      setProblem({
        ...problemFrom(error),
        file: file.name,
        where: 'scene file',
        remedy: 'Choose a scene file or a picture that Dresser saved, or correct that line of the script.',
      });
    }
  };

  return (
    <div className="flex flex-col gap-4">
      <p className="text-soft">
        Everything of this scene but the data, in one JSON file.{' '}
        <code className="text-ink">dresser render</code> takes it, and it can be opened on another run.
      </p>
      <button type="button" className="act" onClick={save}>
        Save scene file
      </button>
      <button type="button" className="quiet" onClick={saveWords}>
        Save as sentences
      </button>
      <label className="quiet cursor-pointer">
        Open a scene, its sentences or its picture on this run
        <input
          type="file"
          accept=".json,.txt,.png,.jpg,.jpeg,.webp,.tif,.tiff,.exr,application/json,text/plain"
          hidden
          onChange={(e) => {
            const [file] = e.target.files ?? [];
            e.target.value = '';
            if (file) void open(file);
          }}
        />
      </label>
      {problem && <ProblemNote problem={problem} />}
      {missing?.length === 0 && <p role="status">Opened; everything in it was found in this run.</p>}
      {missing && missing.length > 0 && (
        <div role="status" className="text-warn">
          <p>Opened, with these left out:</p>
          <ul className="list-disc pl-5">
            {missing.map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
