import { lampColour } from '#core/light/warmth.ts';
import { add, cross, dot, lengthOf, subtract, times, unit, type Vector } from '#core/model/vectors.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import type { Camera, Light } from '#core/scene/document.ts';
import { type LightRig, lampDirection } from '#core/scene/light-rigs/light-rig.ts';
import { levelAxes } from '#core/scene/things/upright.ts';
import { discSample, lampSample } from './samples.ts';

/** Axes in the world of the frame in which a rig is described; see `LightRig`. */
export interface RigFrame {
  towards: Vector;
  right: Vector;
  up: Vector;
}

/** A lamp as it shines on the model. */
export interface ShiningLamp {
  /** Where it stands, of length one. */
  to: Vector;
  /** Its share of the light of all lights. */
  share: number;
  colour: Vector;
  /** Sine of half the angle it is wide. */
  size: number;
}

/**
 * How a rig stands in the world: with the camera, so that no view is a view from behind, or where it is; turned as the scene
 * says.
 *
 * @param worldUp up of the world the model stands in
 */
export function rigFrame(
  rig: Pick<LightRig, 'follows'>,
  light: Pick<Light, 'turn'>,
  camera: Camera,
  worldUp: Vector,
): RigFrame {
  const turned = (towards: Vector): RigFrame => {
    const angle = (light.turn * Math.PI) / 180;
    const right = cross(worldUp, towards);
    return {
      towards: add(times(towards, Math.cos(angle)), times(right, Math.sin(angle))),
      right: subtract(times(right, Math.cos(angle)), times(towards, Math.sin(angle))),
      up: worldUp,
    };
  };
  if (!rig.follows) {
    return turned(levelAxes(worldUp)[0]);
  }
  const { back, right } = cameraAxes(camera);
  const level = subtract(back, times(worldUp, dot(back, worldUp)));
  return turned(lengthOf(level) > 0.05 ? unit(level) : unit(cross(right, worldUp)));
}

/** From the frame of a rig to the world. */
export const inWorld = ({ towards, right, up }: RigFrame, [x, y, z]: Vector): Vector =>
  add(add(times(towards, x), times(right, y)), times(up, z));

/**
 * The lights that shine: all of them by the middle of their faces in a quick picture; in a pass one, which stands for all and
 * comes as often as its share says, by a place on its face.
 */
export function shiningLights(
  rig: Pick<LightRig, 'lights'>,
  light: Pick<Light, 'rise' | 'softness' | 'warmth'>,
  frame: RigFrame,
  pass: { n: number; of: number } | null,
): ShiningLamp[] {
  const all = rig.lights.map((lamp) => ({
    to: unit(inWorld(frame, lampDirection(lamp, light.rise))),
    share: lamp.strength,
    colour: lampColour(Math.min(1, Math.max(-1, lamp.warmth + light.warmth))),
    size: Math.min(0.9, lamp.size * light.softness),
  }));
  if (pass === null || all.length === 0) return all;
  const lamp =
    all[
      lampSample(
        pass.n,
        pass.of,
        all.map((l) => l.share),
      )
    ];
  const [a, b] = discSample(pass.n, pass.of);
  const helper: Vector = Math.abs(dot(lamp.to, frame.up)) < 0.99 ? frame.up : frame.towards;
  const side = unit(cross(lamp.to, helper));
  const to = unit(add(lamp.to, add(times(side, a * lamp.size), times(cross(side, lamp.to), b * lamp.size))));
  const whole = all.reduce((sum, l) => sum + l.share, 0);
  return [{ ...lamp, to, share: whole }];
}
