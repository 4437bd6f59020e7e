import { WebIO } from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsTransmission,
} from '@gltf-transform/extensions';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import { describe, expect, it } from 'vitest';
import { dracoPacked, meshoptPacked, sheet, written } from '../../../tests/sheet-glb.ts';
import { boundsOfBodies } from '../../model/body.ts';
import { readBodies } from './bodies-in-file.ts';

const text = (said: string): Uint8Array => new TextEncoder().encode(said);

describe('bodies of glTF', () => {
  it('come with their material, its colour as sRGB, their picture and where it lies', async () => {
    const { bodies, pictures, lengthUnit, up } = await readBodies(await written(sheet()), 'sheet.glb');
    expect([lengthUnit, up]).toEqual(['m', 'y']);
    const [body] = bodies;
    expect(body.triangles.length / 3).toBe(128);
    // 0.5 and 0.214 of linear light are 188 and 127 of sRGB (IEC 61966-2-1).
    expect(body.material).toMatchObject({
      name: 'glazed',
      colour: '#bc7f00',
      metal: 0.25,
      roughness: 0.6,
      picture: 0,
    });
    expect(Array.from(body.places!.slice(0, 4))).toEqual([0, 1, 0.125, 1]);
    expect(pictures.map((p) => p.type)).toEqual(['image/png']);
  });
  it('stand where their nodes put them, with normals and triangles that still look outward when mirrored', async () => {
    const mirrored = sheet((d) => d.getRoot().listNodes()[0].setScale([-2, 1, 1]).setTranslation([0, 0, 3]));
    const [body] = (await readBodies(await written(mirrored), 'sheet.glb')).bodies;
    expect(boundsOfBodies([body]).map((v) => Number(v.toFixed(4)))).toEqual([-2, 0, 0, 1, 3, 3.1]);
    // The normal of the first triangle, by its corners, goes with the one the file states, turned.
    const [a, b, c] = [0, 1, 2].map((k) => [
      ...body.points.slice(3 * body.triangles[k], 3 * body.triangles[k] + 3),
    ]);
    const cross = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    expect(Math.sign(cross)).toBe(Math.sign(body.normals![2]));
    // At x = -2 the slope is 0.2 over 2: the normal of z = 0.025 x² (analysis).
    const last = 3 * 8;
    expect(body.normals![last] / body.normals![last + 2]).toBeCloseTo(0.1, 5);
  });
  it('are glass or light where their material says so', async () => {
    const glass = sheet((d) => {
      const transmission = d.createExtension(KHRMaterialsTransmission).createTransmission();
      d.getRoot()
        .listMaterials()[0]
        .setExtension('KHR_materials_transmission', transmission.setTransmissionFactor(0.9));
    });
    expect((await readBodies(await written(glass), 'a.glb')).bodies[0].material!.clear).toBeCloseTo(0.9);
    const lit = sheet((d) => {
      const strength = d.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength();
      d.getRoot()
        .listMaterials()[0]
        .setEmissiveFactor([1, 0.5, 0])
        .setExtension('KHR_materials_emissive_strength', strength.setEmissiveStrength(4));
    });
    const { material } = (await readBodies(await written(lit), 'a.glb')).bodies[0];
    expect(material).toMatchObject({ glow: 4, colour: '#ffbc00' });
  });
  it.each([
    ['Draco', dracoPacked, 2e-3],
    ['meshopt', meshoptPacked, 1e-6],
  ] as const)('packed by %s are those that went in', async (_, pack, within) => {
    const [plain] = (await readBodies(await written(sheet()), 'plain.glb')).bodies;
    const bytes = await pack(sheet());
    const [body] = (await readBodies(bytes, 'packed.glb')).bodies;
    expect(body.triangles.length).toBe(plain.triangles.length);
    const areaOf = (of: typeof plain): number => {
      let sum = 0;
      for (let t = 0; t < of.triangles.length; t += 3) {
        const [a, b, c] = [0, 1, 2].map((k) =>
          of.points.subarray(3 * of.triangles[t + k], 3 * of.triangles[t + k] + 3),
        );
        const [u, v] = [b, c].map((p) => [p[0] - a[0], p[1] - a[1], p[2] - a[2]]);
        sum +=
          Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
      }
      return sum;
    };
    expect(Math.abs(areaOf(body) / areaOf(plain) - 1)).toBeLessThan(within);
    for (const [i, v] of boundsOfBodies([body]).entries())
      expect(Math.abs(v - boundsOfBodies([plain])[i])).toBeLessThan(within);
  });
  it('that are damaged are refused with what to do', async () => {
    const whole = await written(sheet());
    await expect(readBodies(whole.slice(0, whole.length - 200), 'cut.glb')).rejects.toThrow(
      /damaged.*Copy or write it again/,
    );
    const strange = sheet((d) => d.createExtension(EXTMeshoptCompression).setRequired(true));
    const json = (
      await new WebIO()
        .registerExtensions([EXTMeshoptCompression])
        .registerDependencies({ 'meshopt.encoder': MeshoptEncoder })
        .writeJSON(strange)
    ).json;
    json.extensionsRequired = ['XYZ_unheard_of'];
    await expect(readBodies(text(JSON.stringify(json)), 'odd.gltf')).rejects.toThrow(/XYZ_unheard_of/);
  });
  it('with a coordinate that is no number are refused by name', async () => {
    const odd = sheet((d) => d.getRoot().listAccessors()[0].setElement(3, [Number.NaN, 0, 0]));
    await expect(readBodies(await written(odd), 'odd.glb')).rejects.toThrow(
      /"sheet" has coordinates that are no numbers/,
    );
  });
});

describe('bodies of surfaces', () => {
  const cube = `${[0, 1].flatMap((z) => [0, 1].flatMap((y) => [0, 1].map((x) => `v ${x} ${y} ${z}`))).join('\n')}
o lid
f 5 6 8 7
o walls
f 1 2 6 5
f 2 4 8 6
`;
  it('of OBJ are a body for each object, polygons as triangles, without a unit', async () => {
    const { bodies, lengthUnit, up } = await readBodies(text(cube), 'box.obj');
    expect(bodies.map((b) => [b.name, b.triangles.length / 3, b.normals, b.material])).toEqual([
      ['lid', 2, null, null],
      ['walls', 4, null, null],
    ]);
    expect([lengthUnit, up]).toEqual([null, null]);
  });
  it('of another kind, or without triangles, are refused', async () => {
    await expect(readBodies(text('hello'), 'note.txt')).rejects.toThrow(
      /Choose an STL, OBJ, PLY, glTF or GLB file/,
    );
    await expect(readBodies(text('v 0 0 0\nv 1 0 0\nl 1 2\n'), 'line.obj')).rejects.toThrow(/no triangles/);
  });
});
