/**
 * A sentence with what was proposed to go on with, words kept apart, ready for the next.
 *
 * @param from where in the sentence the proposal begins
 * @param to the place behind what it stands for; without it what stood behind goes
 */
export function withProposal(text: string, proposal: { from: number; to?: number; text: string }): string {
  const before = text.slice(0, proposal.from);
  const apart = /[\p{L}\p{N}%°)”]$/u.test(before) && /^[\p{L}\p{N}“(]/u.test(proposal.text) ? ' ' : '';
  const next = `${before}${apart}${proposal.text}`;
  const behind = proposal.to === undefined ? '' : text.slice(proposal.to).trimStart();
  if (behind) return `${next}${/^[\p{L}\p{N}“(]/u.test(behind) ? ' ' : ''}${behind}`;
  return /[\p{L}\p{N}%°)”]$/u.test(next) ? `${next} ` : next;
}
