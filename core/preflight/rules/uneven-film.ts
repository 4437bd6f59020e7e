import { warningsOfFilm } from '../../motion/reel-facts.ts';
import { rule } from '../rule.ts';

/** Where the first sentence of a warning ends. */
const SENTENCES = /^(.*[.:][^.]*?\.|[^.]+\.)\s+(\p{Lu}.*)$/su;

/** Steps that are left out or stand still, ends that do not fit, lanes that do not act. */
export const unevenFilm = rule({
  id: 'uneven film',
  name: 'steps left out, standing pictures, jumps',
  severity: 'moderate',
  of: 'film',
  find: ({ scene, run, ofReel }) =>
    (ofReel ? warningsOfFilm(scene, run) : []).map((warning) => {
      const [, says = warning, remedy = 'Look at it on the Reel desk.'] = SENTENCES.exec(warning) ?? [];
      return { place: { kind: 'film', id: null, name: 'the film' }, says, remedy };
    }),
});
