import { describe, expect, it } from 'vitest';
import { likelyPattern, type NamePattern, namePattern } from './name-pattern.ts';

const understood = (text: string): NamePattern => {
  const pattern = namePattern(text);
  if (typeof pattern === 'string') throw new Error(pattern);
  return pattern;
};

describe('parameters in names', () => {
  it('are what stands in the place of braces', () => {
    const pattern = understood('oven_{fan}rpm_{vent}');
    expect(pattern.parameters).toEqual(['fan', 'vent']);
    expect(pattern.read('oven_900rpm_15')).toEqual(['900', '15']);
    expect(pattern.read('OVEN_900RPM_0.5 open')).toEqual(['900', '0.5 open']);
    expect(pattern.read('oven_900_15')).toBeNull();
    expect(pattern.read('my oven_900rpm_15')).toBeNull();
  });

  it('may stand in folders, and what is in {} is passed over', () => {
    expect(understood('power={power}/{}/result').read('power=1.5e3/case 7/result')).toEqual(['1.5e3']);
  });

  it('take what stands between as it is, whatever it means in a pattern of letters', () => {
    expect(understood('a.b({x})[{y}]').read('a.b(1)[2]')).toEqual(['1', '2']);
    expect(understood('a.b({x})').read('aXb(1)')).toBeNull();
  });

  it.each([
    ['oven_{fan', /open or closed alone/],
    ['oven_{a{b}}', /open or closed alone/],
    ['oven', /Nothing in it is a parameter/],
    ['{}_{ }', /Nothing in it is a parameter/],
    ['{a}_{a}', /“a” stands in it twice/],
    ['{a}{b}', /before \{b\}/],
  ])('are refused of %s, with what to do', (text, said) => {
    expect(namePattern(text)).toMatch(said);
  });
});

describe('the likely pattern of names', () => {
  it.each([
    [['case_01', 'case_02', 'case_12'], 'case_{case}'],
    [['oven-rpm900-vent15', 'oven-rpm1200-vent0'], 'oven-rpm{rpm}-vent{vent}'],
    [['900rpm_15deg', '900rpm_30deg'], '900rpm_{deg}deg'],
    [['fan=0.5/result', 'fan=0.75/result'], 'fan={fan}/result'],
    [['loaf_steel_3', 'loaf_tin_3'], 'loaf_{loaf}_3'],
    [['1-2', '3-4'], '{parameter}-{parameter 2}'],
  ])('of %j is %s', (names, pattern) => {
    expect(likelyPattern(names)).toBe(pattern);
    const { read } = understood(pattern);
    for (const name of names) expect(read(name)).not.toBeNull();
  });

  it('is none where names are not alike, are the same, or there is only one', () => {
    expect(likelyPattern(['oven_1', 'oven-1'])).toBeNull();
    expect(likelyPattern(['oven_1', 'oven_1_2'])).toBeNull();
    expect(likelyPattern(['oven_1', 'oven_1'])).toBeNull();
    expect(likelyPattern(['oven_1'])).toBeNull();
    expect(likelyPattern([])).toBeNull();
  });
});
