import { type CollectionRow, writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { type DemoRun, SI } from '../demo-run.ts';
import { quadGrid } from '../shared/grid-mesh.ts';
import { Drawing } from '../shared/png-file.ts';

const WIDTH = 0.8;
const DEPTH = 0.5;
const NX = 160;
const NY = 100;
/** Of steel: W/(m K), J/(m3 K); of the plate: m. */
const CONDUCTIVITY = 45;
const HEAT_CAPACITY = 3.7e6;
const THICKNESS = 0.012;
/** To the air above, W/(m2 K). */
const LOSS = 14;
const ROOM = 22;
const POWER = 2600;
const ELEMENT_WIDTH = 0.012;
const FRAMES = 24;
const FRAME_TIME = 60;

/** The heating element below the plate: there and back, in five runs. */
const ELEMENT: [number, number][] = Array.from({ length: 5 }, (_, n) => {
  const y = 0.07 + 0.09 * n;
  const ends: [number, number][] = [
    [0.07, y],
    [0.7, y],
  ];
  return n % 2 === 0 ? ends : ends.reverse();
}).flat();

/** Sensors on the plate. */
const SENSORS: [number, number][] = [
  [0.2, 0.16],
  [0.4, 0.25],
  [0.6, 0.34],
];

function fromElement(x: number, y: number): number {
  let nearest = Number.POSITIVE_INFINITY;
  for (let n = 0; n + 1 < ELEMENT.length; n++) {
    const [a, b] = [ELEMENT[n], ELEMENT[n + 1]];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const t = Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy)));
    nearest = Math.min(nearest, Math.hypot(x - a[0] - t * dx, y - a[1] - t * dy));
  }
  return nearest;
}

/**
 * Heat in a plate as thin as paper to the eye: conduction along it, heat from the element, loss to the air. Finite
 * volumes, forward in time.
 */
export class DeckPlate {
  readonly temperature = new Float64Array(NX * NY).fill(ROOM);
  /** W/m2 into each cell. */
  readonly heating: Float64Array;
  time = 0;

  constructor(
    readonly power = POWER,
    private readonly loss = LOSS,
  ) {
    const warm = Float64Array.from({ length: NX * NY }, (_, c) => {
      const d = fromElement((((c % NX) + 0.5) / NX) * WIDTH, ((Math.floor(c / NX) + 0.5) / NY) * DEPTH);
      return Math.max(0, 1 - d / ELEMENT_WIDTH);
    });
    const sum = warm.reduce((a, b) => a + b, 0);
    const cell = (WIDTH / NX) * (DEPTH / NY);
    this.heating = warm.map((w) => (power * w) / (sum * cell));
  }

  advance(dt: number): void {
    const t = this.temperature;
    const before = t.slice();
    const [hx, hy] = [WIDTH / NX, DEPTH / NY];
    const spread = (dt * CONDUCTIVITY) / HEAT_CAPACITY;
    const surface = dt / (HEAT_CAPACITY * THICKNESS);
    for (let j = 0; j < NY; j++)
      for (let i = 0; i < NX; i++) {
        const c = j * NX + i;
        const own = before[c];
        let change = 0;
        if (i > 0) change += (before[c - 1] - own) / hx ** 2;
        if (i + 1 < NX) change += (before[c + 1] - own) / hx ** 2;
        if (j > 0) change += (before[c - NX] - own) / hy ** 2;
        if (j + 1 < NY) change += (before[c + NX] - own) / hy ** 2;
        t[c] += spread * change + surface * (this.heating[c] - this.loss * (own - ROOM));
      }
    this.time += dt;
  }
}

/** The plate as a workshop would draw it: outline, element, sensors and a border. */
function workshopDrawing(): { picture: Uint8Array; place: string } {
  const [margin, perUnit] = [0.09, 1500];
  const [width, height] = [
    Math.round((WIDTH + 2 * margin) * perUnit),
    Math.round((DEPTH + 2 * margin) * perUnit),
  ];
  const sheet = new Drawing(width, height, perUnit, [-margin, -margin], [246, 243, 235]);
  const [ink, soft, red]: [number, number, number][] = [
    [40, 52, 74],
    [190, 196, 205],
    [170, 62, 40],
  ];
  const box = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
    [x0, y0],
  ];
  for (let n = 0; n <= 19; n++) {
    const v = -0.08 + 0.05 * n;
    if (v < WIDTH + 0.08)
      sheet.stroke(
        [
          [v, -0.08],
          [v, DEPTH + 0.08],
        ],
        1,
        soft,
      );
    if (v < DEPTH + 0.08)
      sheet.stroke(
        [
          [-0.08, v],
          [WIDTH + 0.08, v],
        ],
        1,
        soft,
      );
  }
  sheet.stroke(box(-0.08, -0.08, WIDTH + 0.08, DEPTH + 0.08), 4, ink);
  sheet.stroke(box(0, 0, WIDTH, DEPTH), 5, ink);
  sheet.stroke(ELEMENT, 3, red);
  // Lines of measure with their ends.
  for (const [a, b] of [
    [
      [0, -0.04],
      [WIDTH, -0.04],
    ],
    [
      [-0.04, 0],
      [-0.04, DEPTH],
    ],
  ] as [[number, number], [number, number]][]) {
    sheet.stroke([a, b], 2, ink);
    for (const [x, y] of [a, b])
      sheet.stroke(
        [
          [x - 0.008, y - 0.008],
          [x + 0.008, y + 0.008],
        ],
        3,
        ink,
      );
  }
  for (const [x, y] of SENSORS) {
    sheet.stroke(
      [
        [x - 0.015, y],
        [x + 0.015, y],
      ],
      3,
      ink,
    );
    sheet.stroke(
      [
        [x, y - 0.015],
        [x, y + 0.015],
      ],
      3,
      ink,
    );
  }
  const pixel = 1 / perUnit;
  const place = [pixel, 0, 0, -pixel, -margin + pixel / 2, DEPTH + margin - pixel / 2];
  return { picture: sheet.file(), place: `${place.join('\n')}\n` };
}

/** A deck plate warms up over its element, on the drawing it was made from. */
export const deckPlate: DemoRun = {
  id: 'deck-plate',
  name: 'Deck plate on its drawing',
  file: '',
  compute(write, progress) {
    const plate = new DeckPlate();
    const mesh = quadGrid(NX, NY, (i, j) => [(i / NX) * WIDTH, (j / NY) * DEPTH, 0]);
    const rows: CollectionRow[] = [];
    const { picture, place } = workshopDrawing();
    write('drawing.png', picture);
    write('drawing.pgw', place);
    for (let frame = 0; frame < FRAMES; frame++) {
      for (let n = 0; n < 4 * FRAME_TIME; n++) plate.advance(0.25);
      const file = `deck-plate-${String(frame + 1).padStart(2, '0')}.vtu`;
      const fields = [
        {
          name: 'temperature',
          location: 'cell' as const,
          components: 1,
          unit: '°C',
          data: Float32Array.from(plate.temperature),
        },
        {
          name: 'heating',
          location: 'cell' as const,
          components: 1,
          unit: 'W/m²',
          data: Float32Array.from(plate.heating),
        },
      ];
      const time = Number(plate.time.toFixed(3));
      write(file, writeVtu(mesh, fields, time, SI));
      rows.push({ time, part: 0, name: 'deck plate', file });
      progress((frame + 1) / FRAMES);
    }
    write('deck-plate.pvd', writePvd(rows));
  },
};
