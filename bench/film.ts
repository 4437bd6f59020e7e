import type { Page } from 'playwright-core';
import type { Scene } from '#core/scene/document.ts';
import { applyEdit } from '#core/scene/edits.ts';
import { even } from '#core/scene/reel/ease.ts';
import { DemoRuns, OVEN } from './demo-run.ts';
import { compare } from './measure.ts';

const SIZE = { width: 640, height: 360 };
/** Of quick light. */
const PASSES = 4;
const RATE = 25;
/** Pictures of a short and of a long film: what comes once, such as a browser that starts, is in both. */
const FEW = 4;
const MANY = 16;

/** What a picture of a film takes that the server makes in quick light, against bare drawing and bare encoding. */
export async function benchFilm(): Promise<void> {
  await DemoRuns.during(async (runs) => {
    const { served, drawing } = runs;
    const { run, scene } = await runs.open(OVEN);
    const film = (count: number): Scene =>
      turning({ ...scene, reel: { ...scene.reel, seconds: count / RATE, rate: RATE } });
    const made = async (count: number): Promise<number> => {
      const began = performance.now();
      const order = {
        scene: film(count),
        ...SIZE,
        passes: PASSES,
        films: [{ format: 'mp4', quality: 'good' }],
      };
      const { answer } = await served.send<{ job: string }>('POST', `/api/runs/${run}/films`, order);
      if (!(await served.follow(answer.job))) throw new Error('The film was not made.');
      return performance.now() - began;
    };
    const picture = ((await made(MANY)) - (await made(FEW))) / (MANY - FEW);
    const drawn = async (passes: number): Promise<number> => {
      const began = performance.now();
      for (let i = 0; i < FEW; i++)
        await drawing.draw({ run, scene: film(MANY), film: i / RATE, passes, ...SIZE });
      return (performance.now() - began) / FEW;
    };
    await drawn(1);
    // Passes alone, without what it takes to bring a picture out.
    const bare = ((await drawn(3 * PASSES)) - (await drawn(PASSES))) / 2;
    const encoding = await bareEncoding(drawing.page);
    compare(
      'a picture of a film in quick light, against bare drawing and encoding',
      picture,
      bare + encoding,
      'at most 1.3',
    );
  });
}

/** The camera goes evenly from where it is to a little farther away. */
export function turning(scene: Scene): Scene {
  const { camera } = scene;
  const away = { ...camera, position: camera.position.map((v) => 1.2 * v) };
  const keys = [
    { at: 0, value: camera, ease: even },
    { at: scene.reel.seconds, value: away, ease: even },
  ];
  return applyEdit(scene, { type: 'reel.begin', beginning: { lanes: [{ of: ['camera'], keys }] } });
}

/** Milliseconds a picture of H.264 takes of which the pixels are there already. */
const bareEncoding = (page: Page): Promise<number> =>
  page.evaluate(
    async ({ width, height, count, rate }) => {
      const canvas = new OffscreenCanvas(width, height);
      const painter = canvas.getContext('2d')!;
      const frames = Array.from({ length: count }, (_, i) => {
        painter.fillStyle = '#eee9e2';
        painter.fillRect(0, 0, width, height);
        painter.fillStyle = '#a04020';
        painter.fillRect(40 + i, 40, width / 2, height / 2);
        return new VideoFrame(canvas, { timestamp: (1e6 * i) / rate });
      });
      const encoder = new VideoEncoder({ output: () => undefined, error: () => undefined });
      encoder.configure({ codec: 'avc1.64001f', width, height, bitrate: 4e6, framerate: rate });
      const began = performance.now();
      for (const frame of frames) {
        encoder.encode(frame);
        frame.close();
      }
      await encoder.flush();
      encoder.close();
      return (performance.now() - began) / count;
    },
    { ...SIZE, count: MANY, rate: RATE },
  );
