import {
  type BufferGeometry,
  CircleGeometry,
  LatheGeometry,
  Mesh,
  NoBlending,
  PlaneGeometry,
  type RawShaderMaterial,
  Vector2,
  Vector3,
} from 'three';
import { linearOf } from '#core/model/srgb.ts';
import { add, dot, times, type Vector } from '#core/model/vectors.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { SWEEP } from '#core/scene/backdrops/registry.ts';
import type { Scene } from '#core/scene/document.ts';
import { type Floor, isMirroring } from '#core/scene/things/floor.ts';
import { levelAxes } from '#core/scene/things/upright.ts';
import { material, unlit } from './marks/material.ts';
import type { Drawn } from './marks/painter.ts';
import type { Level } from './mirrored-view.ts';
import { backdropFragment } from './shaders/backdrop.ts';
import { floorFragment, floorVertex } from './shaders/floor.ts';
import { screenVertex } from './shaders/screen.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** How the floor lies before it is turned to its place. */
const FLAT = new Vector3(0, 0, 1);
/** How far it reaches while only its shadow is seen and else, and how far it lies below: things that stand on it must not share its depth. In radii of the model. */
const REACH = { shadow: 5, seen: 8, sweep: 6 };
const BELOW = 0.004;

/** How far the room reaches, in radii of the model, its height and all. */
export const reachOf = ({ floor, backdrop }: Pick<Scene, 'floor' | 'backdrop'>): number =>
  backdrop.kind === SWEEP ? Math.SQRT2 * REACH.sweep : hasFloor(floor) ? floorReach(floor) : 0;

/** Whether a floor is seen, or a sweep; in even light there is no shadow to be seen alone. */
export const hasRoom = ({ floor, backdrop }: Pick<Scene, 'floor' | 'backdrop'>, even: boolean): boolean =>
  backdrop.kind === SWEEP || (hasFloor(floor) && !(floor.kind === 'shadow' && even));

const hasFloor = ({ kind }: Floor): boolean => kind !== 'none';
const floorReach = ({ kind }: Floor): number => REACH[kind === 'shadow' ? 'shadow' : 'seen'];

/** Where a sweep begins to bend, and how far its wall goes up, in its own radius. */
const BEND = 0.5;
const WALL = 1;

/** A level floor that bends up to a wall all around, of radius one, with z up; seen from within. */
export function sweepShape(): LatheGeometry {
  const bend = Array.from({ length: 25 }, (_, i) => {
    const angle = (Math.PI / 2) * (i / 24);
    return new Vector2(BEND + (1 - BEND) * Math.sin(angle), (1 - BEND) * (1 - Math.cos(angle)));
  });
  const outwards = [new Vector2(0, 0), new Vector2(BEND / 2, 0), ...bend, new Vector2(1, WALL)];
  // From the top inwards its faces look into the room.
  return new LatheGeometry(outwards.reverse(), 96).rotateX(Math.PI / 2);
}

/** What the model stands in: a floor, and the backdrop behind it. */
export class Room {
  readonly backdrop: Drawn;
  readonly floor: Drawn;
  private readonly disc = new CircleGeometry(1, 64);
  private readonly bowl = sweepShape();

  constructor(private readonly shared: StageUniforms) {
    const backdrop = new Mesh(new PlaneGeometry(2, 2), material(screenVertex, backdropFragment, shared));
    backdrop.material.depthWrite = false;
    backdrop.material.blending = NoBlending;
    const floor = new Mesh<BufferGeometry, RawShaderMaterial>(
      this.disc,
      material(floorVertex, floorFragment, shared),
    );
    const bare = unlit(floorVertex, floorFragment, shared);
    for (const made of [floor.material, bare]) made.side = 0;
    floor.material.blending = NoBlending;
    this.backdrop = rows(backdrop, 'backdrop rows');
    this.floor = { ...rows(floor, 'surface rows'), unlit: bare };
  }

  /** What is behind the model, or nothing. */
  hang({ top, foot, vignette }: Backdrop, transparent: boolean): void {
    const { uTop, uFoot, uVignette, uTransparent } = this.shared;
    uTop.value.set(...linearOf(top));
    uFoot.value.set(...linearOf(foot));
    uVignette.value = vignette ? 0.1 : 0;
    uTransparent.value = transparent;
  }

  /**
   * Lays the floor under a model around a centre.
   *
   * @param lowest how far the model reaches down, along what is up
   * @returns where it lies
   */
  layFloor(
    { floor, backdrop }: Pick<Scene, 'floor' | 'backdrop'>,
    centre: Vector,
    radius: number,
    lowest: number,
    up: Vector,
  ): Level {
    const { shared } = this;
    const sweep = backdrop.kind === SWEEP;
    const reach = (sweep ? REACH.sweep : floorReach(floor)) * radius;
    const height = lowest + floor.height;
    const { object } = this.floor;
    object.geometry = sweep ? this.bowl : this.disc;
    const below = add(centre, times(up, height - dot(centre, up)));
    object.position.set(...add(below, times(up, -BELOW * radius)));
    object.quaternion.setFromUnitVectors(FLAT, new Vector3(...up));
    object.scale.setScalar(reach);
    object.updateMatrixWorld(true);
    shared.uUp.value.set(...up);
    shared.uCentre.value.set(...below);
    shared.uReach.value = reach;
    const tiled = floor.kind === 'tiles' && !sweep;
    shared.uSweep.value = sweep;
    shared.uOwnFloor.value = sweep || tiled || floor.kind === 'plain';
    shared.uFloorColours.value[0].set(...linearOf(sweep ? backdrop.top : floor.colour));
    shared.uFloorColours.value[1].set(...linearOf(floor.second));
    shared.uFloorEdge.value = tiled ? floor.edge : 0;
    shared.uFloorSide.value.set(...levelAxes(up)[0]);
    shared.uMirrors.value = isMirroring(floor) ? floor.mirrors : 0;
    return { up, height };
  }
}

function rows(mesh: Mesh<BufferGeometry, RawShaderMaterial>, kind: string) {
  mesh.frustumCulled = false;
  return { object: mesh, kind, by: 'row' as const, count: 2, narrow: () => undefined };
}
