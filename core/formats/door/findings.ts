import { cleanText } from '../../model/clean-text.ts';

/** Most things that are told about one file. */
const MOST = 200;

/** Things worth telling about a file that do not stop it from being read. Repeats are told once. */
export class Findings {
  readonly list: string[] = [];
  add(text: string): void {
    const clean = cleanText(text, 300);
    if (this.list.length < MOST && !this.list.includes(clean)) this.list.push(clean);
  }
}
