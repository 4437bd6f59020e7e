import type { Scene } from '#core/scene/document.ts';
import type { Frame } from '#engine/scene-source.ts';
import { FIRST_BODY } from '../shaders/colour.ts';
import type { Stage } from '../stage.ts';
import { exactExr } from './exr.ts';
import type { Picture } from './picture.ts';
import { type Apart, type PictureOptions, renderPicture } from './render-picture.ts';
import type { PictureWriter } from './writer.ts';

/** A picture that others are put together from, or that says something of each pixel. */
export interface LayerApart {
  id: string;
  /** What it holds. */
  holds: string;
  picture: Picture;
  /** What alone can write it; null where any format can. */
  writer: PictureWriter | null;
}

/** What a picture is made of. */
export interface LayersApart {
  layers: LayerApart[];
  /** What the numbers of bodies stand for, from 1 on. */
  bodies: string[];
}

/** The scene with nothing but the colours of its bodies: in even light, in clear air. */
const onlyColours = (scene: Scene): Scene => ({
  ...scene,
  light: { ...scene.light, rig: 'even' },
  floor: { ...scene.floor, kind: 'none' },
  ink: { ...scene.ink, shown: false },
  haze: { ...scene.haze, amount: 0 },
  glow: { ...scene.glow, strength: 0 },
});

/**
 * The layers of a picture, for whoever puts it together anew: as it is without its words, colours, shadow, depth, normals,
 * bodies, words. Depth, normals and bodies are those of the middle of each pixel, of what is opaque.
 *
 * @param frame what the stage was given; it shows that again when this is done
 * @throws what the signal was aborted with
 */
export async function renderApart(
  stage: Stage,
  frame: Frame,
  scene: Scene,
  options: PictureOptions,
): Promise<LayersApart> {
  const { width, height } = options;
  const apart: Apart = { surfaces: [], shadow: [] };
  const part = (from: number, to: number): Pick<PictureOptions, 'progress'> => ({
    progress: (done) => options.progress?.(from + (to - from) * done),
  });
  const beauty = await renderPicture(stage, frame, scene, { ...options, apart, ...part(0, 0.7) });
  const bodies = stage.bodies(scene);
  const bare = onlyColours(scene);
  try {
    stage.restyle(bare, frame.step);
    const colours = await renderPicture(stage, frame, bare, {
      ...options,
      transparent: true,
      preview: undefined,
      ...part(0.7, 1),
    });
    const of = (tiles: Picture['tiles']): Picture => ({ width, height, tiles, words: null });
    const numbers = (holds: (surface: Surface) => Numbers): Picture =>
      of(apart.surfaces.map(({ tile, pixels }) => ({ tile, pixels: eachPixel(pixels, holds) })));
    const layer = (
      id: string,
      picture: Picture,
      holds: string,
      writer: PictureWriter | null = null,
    ): LayerApart => ({ id, picture, holds, writer });
    const layers = [
      layer('beauty', { ...beauty, words: null }, 'the picture without its words'),
      layer('colours', { ...colours, words: null }, 'the bodies in their colours, in even light, on nothing'),
      layer('shadow', of(apart.shadow), 'share of the light that arrives: 1 where nothing is in its way'),
      layer(
        'depth',
        numbers(({ distance }) => [distance, distance, distance]),
        'distance from the camera along its axis, in the unit of the run; 0 where nothing is',
        exactExr,
      ),
      layer(
        'normals',
        numbers(({ normal }) => normal),
        'direction of the surface along x, y and z of the run, -1..1; 0 where nothing is',
        exactExr,
      ),
      layer(
        'bodies',
        numbers(({ body }) => [body, body, body]),
        'number of the body, see bodies.csv; 0 where none is',
        exactExr,
      ),
      layer('words', onNothing(beauty), 'legends, time and words on nothing'),
    ];
    return { layers, bodies };
  } finally {
    stage.restyle(scene, frame.step);
  }
}

type Numbers = [number, number, number];

/** What lies in a pixel; see `outputs`. */
interface Surface {
  /** Of length one, or 0 where there is none. */
  normal: Numbers;
  distance: number;
  /** From 1 on; 0 is none. */
  body: number;
}

/** @param pixels normals as long as the numbers of their bodies, and distances, as `outputs` tells */
export function eachPixel(pixels: Float32Array, holds: (surface: Surface) => Numbers): Float32Array {
  const out = new Float32Array(pixels.length);
  for (let i = 0; i < pixels.length; i += 4) {
    const [x, y, z, distance] = pixels.subarray(i, i + 4);
    const length = Math.hypot(x, y, z);
    const isFaced = length > 0.5;
    out.set(
      holds({
        normal: isFaced ? [x / length, y / length, z / length] : [0, 0, 0],
        distance: Math.max(0, distance),
        body: Math.max(0, Math.round(length) - FIRST_BODY + 1),
      }),
      i,
    );
    out[i + 3] = distance > 0 ? 1 : 0;
  }
  return out;
}

/** Its words with nothing behind them. */
const onNothing = ({ width, height, tiles, words }: Picture): Picture => ({
  width,
  height,
  tiles: tiles.map(({ tile, pixels }) => ({ tile, pixels: new Float32Array(pixels.length) })),
  words,
});
