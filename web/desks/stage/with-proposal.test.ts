import { describe, expect, it } from 'vitest';
import { withProposal } from './with-proposal.ts';

describe('a proposal that is taken', () => {
  it.each([
    ['Contour lines of temperature', 28, 'at', 'Contour lines of temperature at '],
    ['Contour lines of temp', 17, 'temperature', 'Contour lines of temperature '],
    ['Section of air at ', 18, 'x =', 'Section of air at x ='],
    ['Section of air', 14, ', coloured by', 'Section of air, coloured by '],
    ['', 0, 'Surface of', 'Surface of '],
  ])('goes on with “%s” from %i by “%s”', (text, from, proposed, next) => {
    expect(withProposal(text, { from, text: proposed })).toBe(next);
  });

  it('takes the place of what cannot stand there, and leaves what stands behind', () => {
    const text = 'arrows of pressure in chamber air';
    expect(withProposal(text, { from: 10, to: 18, text: 'velocity' })).toBe(
      'arrows of velocity in chamber air',
    );
    expect(withProposal('arrows of pressure, as lines', { from: 10, to: 18, text: 'velocity' })).toBe(
      'arrows of velocity, as lines',
    );
  });
});
