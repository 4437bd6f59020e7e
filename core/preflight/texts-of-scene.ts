import type { Scene } from '../scene/document.ts';
import type { PictureSeen } from './picture-seen.ts';
import type { Place, Subjects } from './rule.ts';

/** All that can be read on a picture, and the names that go with its files. */
export function textsOfScene(scene: Scene, picture: PictureSeen | null): Subjects['texts'] {
  const said = (place: Place, text: string | null) => (text === null || text === '' ? [] : [{ place, text }]);
  const painted = (picture?.words ?? []).flatMap(({ id, name, words }) =>
    words.map(({ text }) => ({ place: { kind: 'words' as const, id, name }, text })),
  );
  const kept = scene.annotations
    .filter((a) => a.visible)
    .flatMap((a) =>
      ['text', 'title', 'rows'].flatMap((key) =>
        typeof a[key] === 'string'
          ? said({ kind: 'words', id: a.id, name: 'words on the picture' }, a[key])
          : [],
      ),
    );
  return {
    inHouse: scene.checks.inHouse,
    pieces: [
      ...said({ kind: 'picture', id: null, name: 'the name of the scene' }, scene.name),
      ...(picture ? painted : kept),
      ...scene.charts.flatMap((c) => said({ kind: 'chart', id: c.id, name: c.title ?? 'a chart' }, c.title)),
    ],
  };
}
