import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import { withOfferedQuantities } from '../../fields/quantity-sources.ts';
import type { RunDescription } from '../../model/run.ts';
import { needsOfScene, sceneMismatches } from '../apply-scene.ts';
import { defaultScene } from '../default-scene.ts';
import type { Annotation, Scene } from '../document.ts';
import { saidInPicture } from '../said-in-picture.ts';
import { settingOf } from '../setting.ts';
import { partLook } from '../things/part-look.ts';
import { needsOfAnnotations } from './needs.ts';
import { annotationKind } from './registry.ts';

let run: RunDescription;
let plain: Scene;
beforeAll(async () => {
  run = withOfferedQuantities(await ovenRun());
  plain = defaultScene(run);
});

let made = 0;
const one = (kind: Annotation['kind'], change: object = {}): Annotation => ({
  ...annotationKind(kind).defaults(settingOf(run, plain), plain),
  id: `a${made++}`,
  kind,
  visible: true,
  ...change,
});
const needs = (...annotations: Annotation[]) => needsOfAnnotations({ ...plain, annotations }, run);

const temperature = { field: 'point:temperature', component: 0 as const };
const node = { on: 'node', part: 'oven', index: 4, ...temperature };

describe('what words must know', () => {
  it('is nothing for words without values', () => {
    expect(needs(one('text', { text: 'plain' }), one('border'), one('axes'), one('scale-bar'))).toEqual({
      ranges: [],
      attachments: [],
      charts: [],
      gauges: [],
    });
  });

  it('are the ranges of the quantities they tell, each once', () => {
    const texts = ['{max temperature}', '{min temperature:.1f} to {max temperature:.1f}', '{time}'];
    expect(needs(...texts.map((text) => one('text', { text }))).ranges).toEqual(['point:temperature']);
    const block = one('title-block', { title: '{run}', rows: 'Highest: {max}' });
    expect(needs(block, one('caption', { text: '{mean temperature}' })).ranges).toEqual([
      'point:temperature',
    ]);
  });

  it('are the things they hang on, with every value they tell there, its own first', () => {
    const label = one('label', { ...node, text: '{value} at {x}, {temperature}' });
    expect(needs(label).attachments).toEqual([
      { kind: 'node', part: 'oven', index: 4, values: [temperature] },
    ]);
    // The same thing asked twice is looked for once.
    expect(needs(label, { ...label, id: 'again' }).attachments).toHaveLength(1);
    expect(
      needs(one('label', { on: 'highest', among: 'shown', ...temperature, text: '{value}' })).attachments,
    ).toEqual([{ kind: 'highest', among: 'shown', values: [temperature] }]);
    expect(needs(one('callout', { on: 'part', part: 'oven' })).attachments).toEqual([
      { kind: 'part', part: 'oven' },
    ]);
  });

  it('is nothing for a place of their own, and for what is hidden', () => {
    expect(needs(one('label', { on: 'place', place: [1, 2, 3] })).attachments).toEqual([]);
    expect(needs(one('label', { ...node, visible: false }))).toEqual({
      ranges: [],
      attachments: [],
      charts: [],
      gauges: [],
    });
  });
});

describe('words on another run', () => {
  it('say what it lacks of what they tell and hang on', () => {
    const other: RunDescription = {
      ...run,
      fields: run.fields.filter((f) => f.key !== 'point:temperature'),
      parts: run.parts.map((p) => ({ ...p, name: 'chamber' })),
    };
    const scene = {
      ...plain,
      layers: [],
      scales: [],
      annotations: [one('label', { ...node, text: '{value}' })],
    };
    const said = sceneMismatches(scene, other).join('\n');
    expect(said).toContain('the label tells of it');
    expect(said).toContain('the label hangs on it');
    expect(sceneMismatches({ ...scene, annotations: [] }, other)).toEqual([]);
    expect(sceneMismatches(scene, run)).toEqual([]);
  });

  it('ask for the fields and parts they need when a scene is given out', () => {
    const scene = {
      ...plain,
      layers: [],
      scales: [],
      annotations: [one('label', { ...node, text: '{value}' })],
    };
    const { fields, parts } = needsOfScene(scene, run);
    expect([...fields]).toContain('point:temperature');
    expect([...parts]).toEqual(['oven']);
  });
});

describe('parts that are left out', () => {
  const look = { ...partLook.plain, hidden: true };
  const several = (...names: string[]): RunDescription => ({
    ...run,
    parts: names.map((name) => ({ ...run.parts[0], name })),
  });

  it('are named up to three, and counted beyond', () => {
    const parts = { door: look, fan: look, rack: look, tins: look };
    const hides = (...names: (keyof typeof parts)[]): Scene => ({
      ...plain,
      parts: Object.fromEntries(names.map((n) => [n, parts[n]])),
    });
    const bench = several('door', 'fan', 'rack', 'tins', 'walls');
    expect(saidInPicture(hides('door'), bench)).toEqual(['without door']);
    expect(saidInPicture(hides('door', 'fan', 'rack'), bench)).toEqual(['without door, fan and rack']);
    expect(saidInPicture(hides('door', 'fan', 'rack', 'tins'), bench)).toEqual(['without 4 parts']);
  });

  it('are those that a line on show would show, and those that stood in the way', () => {
    const bench = several('door', 'fan');
    const scene: Scene = { ...plain, parts: { door: look } };
    const only = (parts: string[]): Scene => ({ ...scene, layers: [{ ...plain.layers[0], parts }] });
    expect(saidInPicture(only(['fan']), bench)).toEqual([]);
    expect(saidInPicture(only(['door', 'fan']), bench)).toEqual(['without door']);
    expect(saidInPicture({ ...scene, layers: [] }, bench)).toEqual([]);
    expect(saidInPicture({ ...plain, parts: {} }, bench, new Set(['fan']))).toEqual(['without fan']);
  });
});
