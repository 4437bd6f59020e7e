import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { finishById } from '#core/light/finishes/registry.ts';
import { ownLike } from '#core/light/own-finish.ts';
import { ReadError } from '#core/model/read-error.ts';
import { plainBrand } from '#core/report/brand.ts';
import { shippedTemplates } from '#core/report/template.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { type Look, readLook, writtenLook } from '#core/scene/looks/look.ts';
import { shippedLooks, USUAL_LOOK } from '#core/scene/looks/registry.ts';
import { lookOfScene, lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { ovenRun } from '../../tests/sample-run.ts';

const data = mkdtempSync(join(tmpdir(), 'dresser-styles-'));
process.env.DRESSER_DATA = data;
const styles = await import('./styles.ts');
const { setRemoved } = await import('./removed.ts');
const { sweepStore } = await import('./store-sweep.ts');
const { keepEnclosure, freshEnclosures } = await import('./enclosures.ts');
const { ArrayStore } = await import('./array-store.ts');
const { arraysFolder } = await import('./paths.ts');
afterAll(() => rmSync(data, { recursive: true, force: true }));

const run = await ovenRun();
const look = (name: string): Look => lookOfScene(defaultScene(run), lookSettingOf(run), name);
const steel = ownLike(finishById('brushed-steel')!, 'our steel');

describe('styles kept for every scene', () => {
  it('are listed by their names, each kind for itself, as they were kept', async () => {
    await styles.keepStyle('look', writtenLook(look('second')));
    await styles.keepStyle('look', writtenLook(look('first')));
    await styles.keepStyle('finish', steel);
    const kept = await styles.keptStyles('look');
    expect(kept.map((k) => k.name)).toEqual(['first', 'second']);
    expect(readLook(kept[0].document)).toEqual({ look: look('first'), leftOut: [] });
    expect((await styles.keptStyles('finish')).map((k) => k.document)).toEqual([steel]);
  });
  it('are templates and brands of reports too, and nothing else', async () => {
    const template = { ...shippedTemplates.lay, name: 'Board' };
    const brand = { ...plainBrand, name: 'Our house' };
    await styles.keepStyle('template', template);
    await styles.keepStyle('brand', brand);
    expect((await styles.keptStyles('template')).map((k) => k.document)).toEqual([template]);
    expect((await styles.keptStyles('brand')).map((k) => k.document)).toEqual([brand]);
    await expect(styles.keepStyle('brand', { ...brand, ink: 'red' })).rejects.toThrow(ReadError);
    await expect(styles.keepStyle('template', brand)).rejects.toThrow(ReadError);
  });
  it('take the place of what has their name', async () => {
    const [before] = await styles.keptStyles('finish');
    const again = await styles.keepStyle('finish', { ...steel, roughness: 0.7 });
    expect(again).toMatchObject({ id: before.id, document: { roughness: 0.7 } });
    expect(await styles.keptStyles('finish')).toHaveLength(1);
  });
  it('are taken away and brought back', async () => {
    const [{ id }] = await styles.keptStyles('finish');
    await setRemoved('style', id, true);
    expect(await styles.keptStyles('finish')).toEqual([]);
    // Another of its name may be kept meanwhile.
    expect((await styles.keepStyle('finish', steel)).id).not.toBe(id);
    await setRemoved('style', id, false);
    expect(await styles.keptStyles('finish')).toHaveLength(2);
  });
  it('are refused in words where they are none', async () => {
    await expect(styles.keepStyle('look', { name: 'x' })).rejects.toMatchObject({
      where: expect.stringContaining('look'),
    });
    for (const bad of [null, 'oak', { ...steel, roughness: 7 }, { ...steel, colour: 'red; x' }])
      await expect(styles.keepStyle('finish', bad)).rejects.toBeInstanceOf(Error);
  });
  it('keep the files they enclose', async () => {
    async function* bytes() {
      yield Uint8Array.of(1, 2, 3, 4);
    }
    const panorama = await keepEnclosure('hall.hdr', bytes());
    const lit = look('hall');
    lit.things.light = { ...lit.things.light, rig: 'own', panorama };
    await styles.keepStyle('look', writtenLook(lit));
    // An hour later nobody speaks for a file that was only sent.
    freshEnclosures(Date.now() + 2 * 60 * 60_000);
    await sweepStore();
    const store = new ArrayStore(arraysFolder);
    expect(existsSync(store.pathOf(panorama.bytes.hash))).toBe(true);
    const kept = (await styles.keptStyles('look')).find((k) => k.name === 'hall')!;
    await styles.keepStyle('look', writtenLook(look('hall')));
    await sweepStore();
    expect(kept.name).toBe('hall');
    expect(existsSync(store.pathOf(panorama.bytes.hash))).toBe(false);
  });
});

describe('the look of new scenes', () => {
  it('is the usual one, one that ships, or one that was kept; gone, it is nothing', async () => {
    expect(await styles.lookOfNewScenes()).toBe(USUAL_LOOK);
    await styles.setLookOfNewScenes('night');
    expect(await styles.lookById(await styles.lookOfNewScenes())).toEqual(
      shippedLooks.find((l) => l.id === 'night'),
    );
    const own = await styles.keepStyle('look', writtenLook(look('house style')));
    await styles.setLookOfNewScenes(own.id);
    expect(await styles.lookById(own.id)).toEqual(look('house style'));
    await setRemoved('style', own.id, true);
    expect(await styles.lookById(own.id)).toBeNull();
    await expect(styles.setLookOfNewScenes(own.id)).rejects.toThrow(/no such look/);
  });
  it('is what runs open in', async () => {
    const { openingOf } = await import('./opening.ts');
    await styles.setLookOfNewScenes('blueprint');
    const { scene } = await openingOf(run);
    const blueprint = shippedLooks.find((l) => l.id === 'blueprint')!;
    expect(withLook(scene, blueprint, lookSettingOf(run)).scene).toEqual(scene);
    expect(scene.ink.shown).toBe(true);
  });
});
