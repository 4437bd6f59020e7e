import { describe, expect, it } from 'vitest';
import type { OwnMap } from '../maps/own-map.ts';
import { mapFormats, readMaps } from './registry.ts';

const map: OwnMap = {
  name: 'Sourdough',
  space: 'screen',
  stops: [
    { at: 0, colour: '#1a1410' },
    { at: 0.25, colour: '#b4733f' },
    { at: 1, colour: '#fdf6e8' },
  ],
};

describe('colour maps in files', () => {
  for (const format of mapFormats)
    it(`go through ${format.name} and back`, () => {
      const text = format.write(map);
      const [back] = readMaps(text, `Sourdough${format.ending}`);
      expect(back).toEqual(map);
      const stepped = { ...map, space: 'none' as const };
      const [again] = readMaps(format.write(stepped), 'Sourdough');
      expect(again.stops.map((s) => s.colour)).toEqual(map.stops.map((s) => s.colour));
    });
  it('keep their space in JSON and XML', () => {
    for (const ending of ['.json', '.xml'])
      for (const space of ['oklab', 'lab', 'none'] as const) {
        const format = mapFormats.find((f) => f.ending === ending)!;
        expect(format.read(format.write({ ...map, space }), 'x')[0].space).toBe(space);
      }
  });
  it('come as rows of three numbers, of 1 or of 255, with a heading or without', () => {
    const colours = ['#000000', '#808080', '#ffffff'];
    for (const text of [
      '0 0 0\n0.502 0.502 0.502\n1 1 1',
      '# grey\n0 0 0\n128 128 128\n255 255 255\n',
      'r,g,b\n0,0,0\n128,128,128\n255,255,255',
      'pos;r;g;b\n0;0;0;0\n5;128;128;128\n10;255;255;255',
    ])
      expect(readMaps(text, 'grey.txt')[0].stops).toEqual(
        colours.map((colour, i) => ({ at: i / 2, colour })),
      );
  });
  it('come as stretches with heights, whose ends may jump', () => {
    const [land] = readMaps(
      '# COLOR_MODEL = RGB\n-8000 0/0/80 0 120/180/220\n0 40/120/60 4000 255/255/255\nB 0/0/0\nF 255/255/255\nN 128/128/128\n',
      'land.cpt',
    );
    expect(land.stops.map((s) => s.colour)).toEqual(['#000050', '#78b4dc', '#28783c', '#ffffff']);
    expect(land.stops.map((s) => s.at)).toEqual([0, expect.closeTo(2 / 3, 6), expect.closeTo(2 / 3, 6), 1]);
    const [steps] = readMaps('0 10 20 30 1 10 20 30\n1 40 50 60 2 40 50 60\n', 'steps.cpt');
    expect(steps).toMatchObject({ space: 'none', stops: [{ colour: '#0a141e' }, { colour: '#28323c' }] });
  });
  it('may be many in one XML', () => {
    const xml = `<ColorMaps><!-- <ColorMap name="no"/> -->
      <ColorMap name="A &amp; B" space="Lab"><Point x="-1" o="1" r="0" g="0" b="0"/><Point x="1" o="0" r="1" g="1" b="1"/></ColorMap>
      <ColorMap space="RGB"><Point x='0' r='1' g='0' b='0'/><Point x='2' r='0' g='0' b='1'/></ColorMap></ColorMaps>`;
    const [first, second] = readMaps(xml, 'two.xml');
    expect(first).toMatchObject({ name: 'A & B', space: 'lab', stops: [{ at: 0 }, { at: 1 }] });
    expect(second).toMatchObject({ name: 'two 2', stops: [{ colour: '#ff0000' }, { colour: '#0000ff' }] });
  });
  it('longer than a map may be are thinned, their ends kept', () => {
    const rows = Array.from({ length: 1000 }, (_, i) => `${i / 999} 0 0`).join('\n');
    const [long] = readMaps(rows, 'long.txt');
    expect(long.stops.length).toBeLessThanOrEqual(256);
    expect([long.stops[0].colour, long.stops.at(-1)!.colour]).toEqual(['#000000', '#ff0000']);
  });
  it.each([
    ['', /empty/],
    ['{"stops": []}', /does not fit at "stops"/],
    ['{ not json', /no JSON/],
    ['<ColorMap name="x"><Point x="0" r="2" g="0" b="0"/></ColorMap>', /point 1/],
    ['<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "b">]><ColorMap/>', /entities/],
    ['<?xml version="1.0"?><Other/>', /no ColorMap/],
    ['0 0 0\n1 1\n', /Line 2/],
    ['0 0 0\n300 0 0\n', /Line 2.*outside/],
    ['0 0 0\n0 0 0 nine\n', /Line 2/],
    ['0.5 0.5 0.5', /one colour/],
    ['# COLOR_MODEL = HSV\n0 0 0 0 1 0 0 0\n', /Line 1/],
  ])('that are wrong are refused with a reason: %s', (text, reason) => {
    expect(() => readMaps(text, 'colours.txt')).toThrow(reason);
  });
});
