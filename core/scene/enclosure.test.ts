import { describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { speak } from '../language/sentence.ts';
import { SentenceReader } from '../language/sentence-reader.ts';
import { defaultScene } from './default-scene.ts';
import { type Enclosure, enclosurePhrase, enclosuresIn } from './enclosure.ts';
import { readSceneFile, writeSceneFile } from './scene-file.ts';
import { readScript, writeScript } from './scene-script.ts';
import { settingOf } from './setting.ts';

const enclosure = (letter: string, name = `${letter}.hdr`): Enclosure => ({
  name,
  bytes: { hash: letter.repeat(64), type: 'u8', length: 12 },
});

const dressed = async () => {
  const run = await ovenRun();
  const plain = defaultScene(run);
  const scene = {
    ...plain,
    light: { ...plain.light, rig: 'own', panorama: enclosure('a', 'hall "at night".hdr') },
    backdrop: { ...plain.backdrop, kind: 'picture', picture: enclosure('b', 'wall.png') },
  };
  return { run, scene };
};

describe('files that go with a scene', () => {
  it('are found wherever a document holds them, each content once', async () => {
    const { scene } = await dressed();
    expect(enclosuresIn(scene)).toEqual([scene.light.panorama, scene.backdrop.picture]);
    expect(enclosuresIn([scene, { deep: [{ deeper: scene }] }, null, 'text'])).toHaveLength(2);
    // What only looks like one is none.
    expect(enclosuresIn({ name: 'x', bytes: { hash: '../../etc', type: 'u8', length: 3 } })).toEqual([]);
  });
  it('are said in full and read back, whatever they are called', async () => {
    const { run, scene } = await dressed();
    const setting = { ...settingOf(run, scene), exact: true };
    const phrase = enclosurePhrase<{ file: Enclosure | null }>('file');
    const text = speak(phrase.say({ file: enclosure('c', 'with "quotes" and \\.hdr') }, setting)!);
    const found: { file?: Enclosure | null } = {};
    expect(phrase.read(new SentenceReader(text), found, setting)).toBe(true);
    expect(found.file).toEqual(enclosure('c', 'with "quotes" and \\.hdr'));
    expect(phrase.read(new SentenceReader('"a.hdr" 12 "abc"'), {}, setting)).toBe(false);
    const back = readScript(writeScript(scene, run), run);
    expect([back.light, back.backdrop]).toEqual([scene.light, scene.backdrop]);
  });
  it('are in the file of the scene, and taken out of it again', async () => {
    const { scene } = await dressed();
    const read = readSceneFile(writeSceneFile(scene, ['QUFB', 'QkJC']));
    expect(read.scene).toEqual(scene);
    expect(read.enclosed).toEqual([
      { enclosure: scene.light.panorama, base64: 'QUFB' },
      { enclosure: scene.backdrop.picture, base64: 'QkJC' },
    ]);
    const plain = {
      ...scene,
      light: { ...scene.light, panorama: null },
      backdrop: { ...scene.backdrop, picture: null },
    };
    expect(readSceneFile(writeSceneFile(plain, [])).enclosed).toEqual([]);
  });
  it('that a file does not hold are left out, not made up', async () => {
    const { scene } = await dressed();
    const damaged = JSON.stringify({ ...scene, enclosed: { ['a'.repeat(64)]: 5 } });
    expect(readSceneFile(damaged).enclosed).toEqual([]);
  });
});
