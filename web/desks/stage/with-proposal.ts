/**
 * A sentence with what was proposed to go on with, words kept apart, ready for the next.
 *
 * @param from where in the sentence the proposal begins; what stood behind goes
 */
export function withProposal(text: string, proposal: { from: number; text: string }): string {
  const before = text.slice(0, proposal.from);
  const apart = /[\p{L}\p{N}%°)”]$/u.test(before) && /^[\p{L}\p{N}“(]/u.test(proposal.text) ? ' ' : '';
  const next = `${before}${apart}${proposal.text}`;
  return /[\p{L}\p{N}%°)”]$/u.test(next) ? `${next} ` : next;
}
