import { CircleGeometry, Mesh, NoBlending, PlaneGeometry, type RawShaderMaterial, Vector3 } from 'three';
import { add, dot, times, type Vector } from '#core/model/vectors.ts';
import { material, unlit } from './marks/material.ts';
import type { Drawn } from './marks/painter.ts';
import { backdropFragment, floorFragment, floorVertex } from './shaders/backdrop.ts';
import { screenVertex } from './shaders/screen.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** How the floor lies before it is turned to its place. */
const FLAT = new Vector3(0, 0, 1);
/** How far it reaches, in radii of the model, and how far it lies below: things that stand on it must not share its depth. */
const REACH = 5;
const BELOW = 0.004;

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

  /** Under a model around a centre, at so far along what is up. */
  layFloor(centre: Vector, radius: number, bottom: number, up: Vector): void {
    const reach = REACH * radius;
    const { object } = this.floor;
    const below = add(centre, times(up, bottom - dot(centre, up)));
    object.position.set(...add(below, times(up, -BELOW * radius)));
    object.quaternion.setFromUnitVectors(FLAT, new Vector3(...up));
    object.scale.setScalar(reach);
    object.updateMatrixWorld(true);
    this.shared.uCentre.value.set(...below);
    this.shared.uReach.value = reach;
  }
}

function rows(mesh: Mesh<PlaneGeometry | CircleGeometry, RawShaderMaterial>, kind: string) {
  mesh.frustumCulled = false;
  return { object: mesh, kind, by: 'row' as const, count: 2, narrow: () => undefined };
}
