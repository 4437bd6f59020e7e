import { CircleGeometry, Mesh, NoBlending, PlaneGeometry, type RawShaderMaterial, Vector3 } from 'three';
import { add, dot, subtract, times, unit, type Vector } from '#core/model/vectors.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { type Floor, isMirroring } from '#core/scene/things/floor.ts';
import { linearOf } from './linear-colour.ts';
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
const REACH = { shadow: 5, seen: 8 };
const BELOW = 0.004;

/** How far a floor reaches, in radii of the model. */
export const reachOf = ({ kind }: Floor): number =>
  kind === 'none' ? 0 : REACH[kind === 'shadow' ? 'shadow' : 'seen'];

/** What the model stands in: a floor, and the backdrop behind it. */
export class Room {
  readonly backdrop: Drawn;
  readonly floor: Drawn;

  constructor(private readonly shared: StageUniforms) {
    const backdrop = new Mesh(new PlaneGeometry(2, 2), material(screenVertex, backdropFragment, shared));
    backdrop.material.depthWrite = false;
    backdrop.material.blending = NoBlending;
    const floor = new Mesh(new CircleGeometry(1, 64), material(floorVertex, floorFragment, shared));
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
  layFloor(floor: Floor, centre: Vector, radius: number, lowest: number, up: Vector): Level {
    const { shared } = this;
    const reach = reachOf(floor) * radius;
    const height = lowest + floor.height;
    const { object } = this.floor;
    const below = add(centre, times(up, height - dot(centre, up)));
    object.position.set(...add(below, times(up, -BELOW * radius)));
    object.quaternion.setFromUnitVectors(FLAT, new Vector3(...up));
    object.scale.setScalar(reach);
    object.updateMatrixWorld(true);
    shared.uUp.value.set(...up);
    shared.uCentre.value.set(...below);
    shared.uReach.value = reach;
    const tiled = floor.kind === 'tiles';
    shared.uOwnFloor.value = tiled || floor.kind === 'plain';
    shared.uFloorColours.value[0].set(...linearOf(floor.colour));
    shared.uFloorColours.value[1].set(...linearOf(floor.second));
    shared.uFloorEdge.value = tiled ? floor.edge : 0;
    const helper: Vector = Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
    shared.uFloorSide.value.set(...unit(subtract(helper, times(up, dot(helper, up)))));
    shared.uMirrors.value = isMirroring(floor) ? floor.mirrors : 0;
    return { up, height };
  }
}

function rows(mesh: Mesh<PlaneGeometry | CircleGeometry, RawShaderMaterial>, kind: string) {
  mesh.frustumCulled = false;
  return { object: mesh, kind, by: 'row' as const, count: 2, narrow: () => undefined };
}
