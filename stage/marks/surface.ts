import { BufferAttribute, BufferGeometry, Mesh, Vector3 } from 'three';
import { linearOf } from '#core/model/srgb.ts';
import { blend, blendInLayers, keepGreatest, offsetSurface } from '../blending.ts';
import { coarseSurface, isLarge } from '../coarse-surface.ts';
import { PLANE_CORNERS } from '../plane-corners.ts';
import { casterFragment, casterVertex, surfaceFragment, surfaceVertex } from '../shaders/surface.ts';
import { material, unlit, useFinish } from './material.ts';
import type { Drawn, Painter } from './painter.ts';
import { ScaleUniforms } from './scale-uniforms.ts';
import { Segments } from './segments.ts';
import { disposeShared, sharedAttribute } from './shared-arrays.ts';
import { VertexValues } from './vertex-values.ts';

/** With fewer triangles it is pixels that cost: then a surface is drawn row by row. */
const FEW = 4000;

/** Faces with their edges; they cast shadows. */
export const surfacePainter: Painter<'surface'> = {
  kind: 'surface',
  paint(mark, look, shared) {
    const { positions, normals, triangles } = mark;
    const values = new VertexValues(positions.length / 3);
    const slack = { value: 0 };
    const uniforms = {
      ...shared,
      ...look.own,
      uSlack: slack,
      uShaded: { value: mark.shades !== null },
      uPictureLit: { value: mark.places !== undefined },
    };
    const g = new BufferGeometry();
    g.setAttribute('position', sharedAttribute(positions, 3));
    g.setAttribute('normal', sharedAttribute(normals, 3));
    g.setAttribute('value', values.value);
    g.setAttribute('known', values.known);
    if (mark.shades) g.setAttribute('shade', sharedAttribute(mark.shades, 1));
    if (mark.places) g.setAttribute('uv', sharedAttribute(mark.places, 2));
    else if (positions.length === 12) g.setAttribute('uv', new BufferAttribute(PLANE_CORNERS, 2));
    g.setIndex(sharedAttribute(triangles, 1));
    const seen = new Mesh(g, material(surfaceVertex, surfaceFragment, uniforms));
    const bare = unlit(surfaceVertex, surfaceFragment, uniforms);
    const shadow = material(casterVertex, casterFragment, uniforms);
    const shadowOfShown = material(casterVertex, casterFragment, uniforms, { HIDES: '' });
    for (const made of [shadow, shadowOfShown]) keepGreatest(made);
    const caster = new Mesh(g, shadow);
    const count = triangles.length / 3;
    /** The same vertices in fewer triangles, once they are there. */
    let few: BufferGeometry | null = null;
    let isAsked = false;
    const pieces = (object: Mesh, kind: string): Drawn => ({
      object,
      kind: count < FEW ? `${kind} rows` : kind,
      by: count < FEW ? 'row' : 'element',
      count,
      narrow: (from, to) => {
        values.fill();
        object.geometry.setDrawRange(3 * from, 3 * (to - from));
      },
    });
    const edgeLook = {
      uOneColour: { value: true },
      uPlain: { value: new Vector3(0.02, 0.018, 0.016) },
      uSlack: { value: 0 },
      uOpacity: { value: 0.45 },
    };
    const thick = { value: 1 };
    // Edges lie on what is shown: they are hidden by the values of the faces, unless they show their own.
    const edgeScale = new ScaleUniforms();
    const edges = new Segments(positions, mark.edges, {
      ...uniforms,
      ...edgeLook,
      uThick: thick,
    });
    const [edge] = edges.drawn;
    // What is seen through has its edges in its place; those of the others lie upon them.
    let isClear = false;
    const fade = (opacity: number): void => {
      blendInLayers(seen.material, bare, look.throughAt(opacity));
      const { transparent } = seen.material;
      edge.through = transparent ? undefined : 'upon opaque';
      blendInLayers(edges.material, edges.bare, transparent ? 0.5 : 1);
      blend(edges.material, 0.5);
      face.unlit = isClear && !transparent ? null : bare;
    };
    const face = pieces(seen, 'surface');
    const surface = [face];
    const withEdges = [...surface, ...edges.drawn];
    const casters = [pieces(caster, 'shadow')];
    const all = { drawn: surface, casters };
    let isGone = false;
    const makeFewer = async (): Promise<void> => {
      isAsked = true;
      const fewer = await coarseSurface(mark);
      if (isGone) return;
      few = new BufferGeometry();
      for (const [name, values] of Object.entries(g.attributes)) few.setAttribute(name, values);
      few.setIndex(new BufferAttribute(fewer, 1));
    };
    const isCoarse = (): boolean => seen.geometry !== g;
    for (const object of [seen, caster]) object.frustumCulled = false;
    return {
      get drawn() {
        // Edges of cells belong to all of them.
        return isCoarse() ? surface : all.drawn;
      },
      get casters() {
        return all.casters;
      },
      coarser: isLarge(mark)
        ? (wanted) => {
            // Without them all are drawn, as before.
            if (wanted && !isAsked) makeFewer().catch(() => undefined);
            const geometry = (wanted && few) || g;
            for (const object of [seen, caster]) object.geometry = geometry;
            for (const one of [...surface, ...casters]) one.count = geometry.index!.count / 3;
            return isCoarse();
          }
        : undefined,
      setValues: (v, ofEdges) => {
        values.set(v);
        edges.values.set(ofEdges ?? v);
      },
      restyle: ({ layer, edges: shown, edgeScale: byScale }) => {
        isClear = layer.sides === 'clear';
        fade(layer.opacity);
        useFinish(seen.material, look.isFinished);
        caster.material = look.mayHide ? shadowOfShown : shadow;
        if (byScale) edgeScale.update(byScale, null);
        edges.use(byScale ? { ...edgeScale.own, uHasField: { value: true } } : uniforms);
        edgeLook.uOneColour.value = byScale === null;
        for (const m of [seen.material, bare]) offsetSurface(m, shown);
        slack.value = shown ? 0.5 : 0;
        all.drawn = shown ? withEdges : surface;
        all.casters = layer.opacity > 0.6 && !isClear ? casters : [];
        thick.value = layer.lineWidth;
        edgeLook.uOpacity.value = layer.edges.opacity * Math.sqrt(layer.opacity);
        edgeLook.uPlain.value.set(...linearOf(layer.edges.colour));
      },
      fade,
      dispose: () => {
        isGone = true;
        // Its vertices are those of the other.
        for (const name of Object.keys(few?.attributes ?? {})) few?.deleteAttribute(name);
        few?.dispose();
        disposeShared(g);
        seen.material.dispose();
        bare.dispose();
        shadow.dispose();
        shadowOfShown.dispose();
        edgeScale.dispose();
        edges.dispose();
      },
    };
  },
};
