import type { Block } from '#core/report/blocks/registry.ts';
import type { FactChart, SceneFacts, SetFacts } from '#core/report/facts.ts';
import { emptyReport, type Report, type ReportSource } from '#core/report/report.ts';

export const source = (
  id: string,
  name: string,
  kind: ReportSource['of']['kind'] = 'shot',
): ReportSource => ({
  id,
  name,
  of: { kind, id: `${kind}-${id}` },
  run: null,
  seen: 'a'.repeat(31) + id.length,
  before: null,
});

export const chart: FactChart = {
  id: 'course',
  title: 'Warm-up',
  along: 'time, s',
  up: 'temperature, °C',
  logAlong: false,
  logUp: false,
  series: [
    { name: 'tins', x: [0, 10, 20], y: [20, null, 180], ink: '#a4431f', joined: true },
    { name: 'air', x: [0, 20], y: [25, 210.5], ink: '#2f6f73', joined: true },
  ],
  svg: '<svg width="960" height="540" viewBox="0 0 960 540"><path d="M0 0L9 9"/><text x="1" y="2">tins &amp; air</text></svg>',
  png: 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGNgGAWDHQAAAi0AAY2rGmkAAAAASUVORK5CYII=',
};

/** What is seen of a scene of the baking chamber. */
export const oven: SceneFacts = {
  kind: 'scene',
  run: { id: 'run', name: 'oven-1200-45' },
  scene: 'Chamber',
  captions: {
    engineer: 'Section of chamber air at z = 0.4 m, temperature; step 25, t = 50 s.',
    customer: 'Section of chamber air at z = 0.4 m, coloured by temperature at t = 50 s.',
    lay: 'Section of chamber air at z = 0.4 m, coloured by temperature after 50 s.',
  },
  alt: 'Section of chamber air at z = 0.4 m, coloured by temperature on Heat. At t = 50 s.',
  words: [
    { name: 'max temperature', says: 'highest temperature', unit: '°C', value: 234.56 },
    { name: 'force', says: 'read by a gauge', unit: 'N', value: [1, -2, 0.5] },
    { name: 'mean wetness', says: 'nowhere', unit: null, value: null },
  ],
  readings: [
    {
      id: 'g1',
      name: 'average of temperature over tins',
      said: '180.25 °C',
      value: 180.25,
      unit: '°C',
      notes: ['Look again: coarse.'],
      trouble: null,
    },
    {
      id: 'g2',
      name: 'force on door',
      said: '',
      value: null,
      unit: null,
      notes: [],
      trouble: 'These parts have no pressure.',
    },
  ],
  charts: [chart],
  origin: {
    files: [{ name: 'oven.vtu', bytes: 924063, sha256: '27'.repeat(32) }],
    steps: '60 steps, t = 2 to 120 s',
    moment: 'step 25, t = 50 s',
    scales: [{ name: 'temperature', unit: '°C', low: 20, high: 240, map: 'Heat' }],
    stated: ['displacement × 20'],
  },
  lacking: [],
  findings: [
    {
      rule: 'saturated',
      severity: 'moderate',
      place: { kind: 'scale', id: 'scale-1', name: 'temperature' },
      says: 'temperature: 2 % above the range, of the area, has the colour of its end.',
      remedy: 'Widen the range, or give what lies beyond a colour of its own.',
      waived: null,
    },
    {
      rule: 'coarse cells',
      severity: 'minor',
      place: { kind: 'line', id: 'layer-1', name: 'Section of chamber air' },
      says: '“Section of chamber air” has coarse cells.',
      remedy: 'Show the edges of the cells.',
      waived: 'a first run',
    },
  ],
  aspect: 1.5,
};

export const fans: SetFacts = {
  kind: 'set',
  name: 'Fans',
  columns: [
    { name: 'fan', unit: 'rpm', role: 'input' },
    { name: 'spread', unit: '°C', role: 'output' },
  ],
  rows: [
    { run: 'oven-600', cells: ['600', '68.27'] },
    { run: 'oven-1200', cells: ['1200', '40.09'] },
  ],
  words: [{ name: 'lowest spread', says: 'of all runs', unit: '°C', value: 40.09 }],
  findings: ['The unit of one is not known.'],
};

const heading = (
  id: string,
  text: string,
  role: Extract<Block, { kind: 'heading' }>['role'],
  level: 1 | 2 = 1,
): Block => ({
  id,
  kind: 'heading',
  readers: null,
  text,
  level,
  role,
});

const words = (id: string, text: string, readers: Block['readers'] = null): Block => ({
  id,
  kind: 'text',
  readers,
  text,
});

/** A report that has a block of every kind. */
export const report: Report = {
  ...emptyReport('Even baking'),
  author: 'Oven works',
  date: '2026-12-01',
  sources: [source('s', 'Chamber'), source('set', 'Fans', 'set'), source('gone', 'Lost')],
  blocks: [
    heading('h-sum', 'Summary', 'summary'),
    words('t-sum', 'Up to {max temperature of Chamber:.0f} °C, see {figure Chamber} and {table Chamber}.'),
    heading('h-meth', 'Method', 'method'),
    words('t-meth', 'For engineers only.', ['engineer']),
    heading('h-res', 'Results', 'results'),
    {
      id: 'f-lost',
      kind: 'figure',
      readers: null,
      source: 'gone',
      captions: {},
      alt: null,
      width: 'full',
      living: true,
    },
    {
      id: 'f',
      kind: 'figure',
      readers: null,
      source: 's',
      captions: {},
      alt: null,
      width: 'half',
      living: true,
    },
    heading('h-more', 'In numbers', 'results', 2),
    { id: 'c', kind: 'chart', readers: null, source: 's', chart: null, captions: {} },
    { id: 'n', kind: 'numbers', readers: null, source: 's', gauges: ['g1'] },
    { id: 'r', kind: 'readings', readers: null, source: 's', captions: {} },
    { id: 'runs', kind: 'runs', readers: null, source: 'set', captions: {} },
    heading('h-q', 'Question', 'question'),
    words('t-q', 'Why?'),
  ],
};

/** What was seen of its sources. */
export const seen = new Map<string, SceneFacts | SetFacts | string>([
  ['s', oven],
  ['set', fans],
  ['gone', 'the run is no longer there'],
]);
