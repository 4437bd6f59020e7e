import { hexToRgb, type Lab } from '../cielab.ts';
import { type ColourMap, colourMap } from './colour-map.ts';
import { evenRamp, evenRing, joinedRamps, straightLightnessRamp, twoSidedRamp } from './lab-ramps.ts';

type Said = Omit<Parameters<typeof colourMap>[0], 'group' | 'even'>;

const sequential = (said: Said, anchors: Lab[]): ColourMap =>
  colourMap({ ...said, group: 'sequential', even: true }, () => evenRamp(anchors));

const diverging = (said: Said, low: Lab[], high: Lab[]): ColourMap =>
  colourMap({ ...said, group: 'diverging', even: true, suits: ['signed'] }, () => twoSidedRamp(low, high));

const cyclic = (said: Said, anchors: Lab[]): ColourMap =>
  colourMap({ ...said, group: 'cyclic', even: true, suits: ['phase'] }, () => evenRing(anchors));

const grey = (said: Said, from: Lab, to: Lab): ColourMap =>
  colourMap({ ...said, group: 'grey', even: true }, () => evenRamp([from, to]));

/** Maps made here, from anchor colours in CIE L*a*b*. */
export const ownMaps: readonly ColourMap[] = [
  sequential({ id: 'heat', name: 'Heat', note: 'embers to cream; temperature', suits: ['temperature'] }, [
    [18, 26, 6],
    [34, 50, 30],
    [52, 58, 54],
    [70, 34, 66],
    [86, 6, 48],
    [96, -1, 14],
  ]),
  sequential(
    { id: 'steam', name: 'Steam', note: 'deep water to vapour; speed, moisture', suits: ['speed'] },
    [
      [18, 14, -38],
      [36, 2, -40],
      [56, -14, -30],
      [76, -20, -12],
      [95, -4, 4],
    ],
  ),
  sequential({ id: 'crust', name: 'Crust', note: 'rye to flour; loads, thickness', suits: ['stress'] }, [
    [16, 8, 8],
    [36, 20, 30],
    [58, 18, 46],
    [78, 6, 38],
    [95, 0, 12],
  ]),
  sequential({ id: 'herb', name: 'Herb', note: 'dark leaf to pale; a second scale beside Heat' }, [
    [18, -6, -14],
    [38, -26, 0],
    [60, -36, 26],
    [80, -26, 44],
    [95, -8, 22],
  ]),
  sequential(
    { id: 'berry', name: 'Berry', note: 'night to rose; pressure, a second scale', suits: ['pressure'] },
    [
      [16, 20, -30],
      [34, 38, -40],
      [54, 48, -24],
      [74, 32, -4],
      [95, 6, 4],
    ],
  ),
  sequential({ id: 'brine', name: 'Brine', note: 'deep water to straw; salt, solutions', suits: ['salt'] }, [
    [18, 16, -44],
    [36, -6, -30],
    [56, -28, -6],
    [76, -30, 30],
    [94, -10, 40],
  ]),
  sequential(
    { id: 'rain', name: 'Rain', note: 'dry stone to storm; precipitation, wetness', suits: ['rain'] },
    [
      [22, 22, -34],
      [40, 6, -42],
      [60, -12, -34],
      [80, -18, -8],
      [95, 0, 8],
    ],
  ),
  sequential({ id: 'ground', name: 'Ground', note: 'valley to summit; heights of land', suits: ['height'] }, [
    [28, -22, 16],
    [46, -14, 32],
    [64, 8, 36],
    [82, 8, 22],
    [97, 0, 2],
  ]),
  sequential({ id: 'snow', name: 'Snow', note: 'blue ice to fresh snow; frost, ice' }, [
    [34, 6, -40],
    [58, -8, -32],
    [80, -10, -14],
    [98, -1, -1],
  ]),
  diverging(
    { id: 'frost-fire', name: 'Frost and fire', note: 'below and above a middle' },
    [
      [28, 6, -44],
      [52, -8, -36],
      [76, -10, -16],
      [95, 0, 2],
    ],
    [
      [28, 46, 28],
      [52, 50, 40],
      [76, 20, 24],
      [95, 0, 2],
    ],
  ),
  diverging(
    { id: 'moss-plum', name: 'Moss and plum', note: 'below and above a middle, quieter' },
    [
      [30, -26, 14],
      [54, -28, 22],
      [78, -14, 14],
      [95, 0, 2],
    ],
    [
      [30, 36, -26],
      [54, 34, -26],
      [78, 14, -12],
      [95, 0, 2],
    ],
  ),
  diverging(
    { id: 'teal-rust', name: 'Teal and rust', note: 'below and above a middle, told apart by every eye' },
    [
      [30, -18, -20],
      [54, -26, -18],
      [78, -16, -8],
      [96, 0, 2],
    ],
    [
      [30, 28, 30],
      [54, 32, 44],
      [78, 16, 30],
      [96, 0, 2],
    ],
  ),
  cyclic({ id: 'dial', name: 'Dial', note: 'around through four hues; phase, direction' }, [
    [62, 40, 8],
    [74, 4, 52],
    [62, -38, 8],
    [50, 2, -44],
  ]),
  cyclic(
    { id: 'day-night', name: 'Day and night', note: 'dark to light and back by another way; hours, angles' },
    [
      [24, 10, -30],
      [56, -14, -34],
      [90, -4, 14],
      [58, 36, 30],
    ],
  ),
  colourMap(
    {
      id: 'relief',
      name: 'Relief',
      group: 'multi-part',
      note: 'sea below, land above the middle',
      suits: ['height', 'depth'],
    },
    () =>
      joinedRamps([
        {
          share: 1,
          colours: straightLightnessRamp([
            [16, 14, -36],
            [40, -2, -38],
            [64, -16, -28],
            [88, -14, -6],
          ]),
        },
        {
          share: 1,
          colours: straightLightnessRamp([
            [34, -26, 22],
            [52, -12, 34],
            [72, 10, 32],
            [98, 0, 2],
          ]),
        },
      ]),
  ),
  colourMap(
    {
      id: 'frozen-thawed',
      name: 'Frozen and thawed',
      group: 'multi-part',
      note: 'two scales that meet at a threshold',
    },
    () =>
      joinedRamps([
        {
          share: 1,
          colours: straightLightnessRamp([
            [30, 8, -46],
            [58, -10, -34],
            [90, -6, -6],
          ]),
        },
        {
          share: 1,
          colours: straightLightnessRamp([
            [26, 34, 14],
            [56, 52, 52],
            [92, 2, 40],
          ]),
        },
      ]),
  ),
  colourMap(
    {
      id: 'raw-done-burnt',
      name: 'Raw, done, burnt',
      group: 'multi-part',
      note: 'too little, right, too much in a third each',
    },
    () =>
      joinedRamps([
        {
          share: 1,
          colours: straightLightnessRamp([
            [54, -6, -30],
            [88, -4, -10],
          ]),
        },
        {
          share: 1,
          colours: straightLightnessRamp([
            [52, -32, 34],
            [84, -18, 46],
          ]),
        },
        {
          share: 1,
          colours: straightLightnessRamp([
            [30, 44, 28],
            [74, 30, 40],
          ]),
        },
      ]),
  ),
  // Okabe and Ito, "Color Universal Design", 2008; from memory.
  colourMap(
    {
      id: 'told-apart',
      name: 'Told apart',
      group: 'categorical',
      note: 'eight colours every eye tells apart',
      published: 'Okabe and Ito',
      suits: ['id'],
    },
    () =>
      ['#0072b2', '#e69f00', '#009e73', '#cc79a7', '#56b4e9', '#d55e00', '#f0e442', '#4a4a4a'].map(hexToRgb),
  ),
  colourMap(
    { id: 'larder', name: 'Larder', group: 'categorical', note: 'ten quiet colours', suits: ['id'] },
    () =>
      [
        '#b4733f',
        '#6f86a3',
        '#8aa38f',
        '#c9a227',
        '#8d5a78',
        '#5a5753',
        '#d8a48f',
        '#3f6f78',
        '#a9b0b5',
        '#7a4f2a',
      ].map(hexToRgb),
  ),
  grey({ id: 'grey', name: 'Grey', note: 'black to white in even steps' }, [2, 0, 0], [98, 0, 0]),
  grey({ id: 'stone', name: 'Stone', note: 'warm grey, never quite black or white' }, [20, 2, 5], [94, 0, 4]),
  grey(
    { id: 'steel', name: 'Steel', note: 'cool grey, never quite black or white' },
    [20, -1, -6],
    [94, -1, -3],
  ),
];
