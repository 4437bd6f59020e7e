import { add, subtract, type Vector } from '../../model/vectors.ts';
import type { Scene } from '../document.ts';
import type { Piece } from './registry.ts';

/** Edits of what stands beside the results. */
export type SceneryEdit =
  | { type: 'scenery.add'; pieces: Piece[] }
  /** Of one piece; where it belongs to a group, a change of its place moves all that are not locked. */
  | { type: 'scenery.change'; id: string; change: Record<string, unknown> }
  /** Of several: shown, hidden, locked, unlocked, grouped. */
  | {
      type: 'scenery.set';
      ids: readonly string[];
      change: Partial<Pick<Piece, 'visible' | 'locked' | 'group'>>;
    }
  | { type: 'scenery.remove'; ids: readonly string[] };

export const sceneryEditsSaid: Record<SceneryEdit['type'], string> = {
  'scenery.add': 'add scenery',
  'scenery.change': 'change scenery',
  'scenery.set': 'hide, lock or group scenery',
  'scenery.remove': 'delete scenery',
};

export const isSceneryEdit = (edit: { type: string }): edit is SceneryEdit =>
  Object.hasOwn(sceneryEditsSaid, edit.type);

/** The pieces that go with one: those of its group, and itself. */
export const groupOf = ({ scenery }: Pick<Scene, 'scenery'>, id: string): Piece[] => {
  const piece = scenery.find((s) => s.id === id);
  return scenery.filter((s) => s.id === id || (piece?.group != null && s.group === piece.group));
};

/** A scene with such an edit. What is locked stays as it is: it can be shown, hidden, grouped and unlocked only. */
export function withSceneryEdit(scene: Scene, edit: SceneryEdit): Scene {
  const { scenery } = scene;
  switch (edit.type) {
    case 'scenery.add':
      return { ...scene, scenery: [...scenery, ...edit.pieces] };
    case 'scenery.change': {
      const piece = scenery.find((s) => s.id === edit.id);
      if (!piece || piece.locked) return scene;
      const place = edit.change.place as Vector | undefined;
      const by = place && subtract(place, piece.place);
      const along = new Set(by ? groupOf(scene, edit.id).map((s) => s.id) : []);
      return {
        ...scene,
        scenery: scenery.map((s) => {
          if (s.id === edit.id) return { ...s, ...edit.change };
          return by && along.has(s.id) && !s.locked ? { ...s, place: add(s.place, by) } : s;
        }),
      };
    }
    case 'scenery.set':
      return {
        ...scene,
        scenery: scenery.map((s) => (edit.ids.includes(s.id) ? { ...s, ...edit.change } : s)),
      };
    case 'scenery.remove':
      return { ...scene, scenery: scenery.filter((s) => s.locked || !edit.ids.includes(s.id)) };
  }
}
