import { expect, it } from 'vitest';
import { vtkXmlUnstructured } from '#core/formats/vtk-xml/vtk-xml-unstructured.ts';
import { openWith } from '../tests/open-mesh.ts';
import { NX, SLOT_SPEED, SLOT_TEMPERATURE, START_TEMPERATURE, tins } from './chamber.ts';
import { OvenFiles } from './oven-files.ts';
import { OvenFlow, ui } from './oven-flow.ts';

it('the flow of the demo oven is free of divergence, warms up, and stays between the two temperatures', () => {
  const flow = new OvenFlow();
  const mean = (): number => flow.temperature.reduce((a, b) => a + b, 0) / flow.temperature.length;
  const begin = mean();
  for (let n = 0; n < 6; n++) flow.advance(0.3);
  // The projection stops at a residual of 0.5 % of the whole; single cells may be off by a few times that share of
  // what the slot brings through a face of 0.02 m.
  expect(flow.largestDivergence()).toBeLessThan((0.02 * SLOT_SPEED) / 0.02);
  expect(mean()).toBeGreaterThan(begin + 0.5);
  for (const t of flow.temperature) expect(t > START_TEMPERATURE - 1 && t < SLOT_TEMPERATURE + 1).toBe(true);
  const through = (i: number): number => {
    let sum = 0;
    for (let k = 0; k < 36; k++) for (let j = 0; j < 28; j++) sum += flow.u[ui(i, j, k)];
    return sum;
  };
  // What comes in through the slot passes every cross-section and leaves through the exhaust.
  for (const i of [1, 10, 25, NX]) expect(through(i) / through(0)).toBeCloseTo(1, 1);
});

it('its files hold air, tins, racks and walls as hexahedra and quads, with units and time', () => {
  const flow = new OvenFlow();
  const files = new OvenFiles(flow).step();
  expect(Object.keys(files)).toEqual(['chamber air', 'tins', 'racks', 'walls']);
  const opened = Object.fromEntries(
    Object.entries(files).map(([name, bytes]) => [name, openWith(vtkXmlUnstructured, bytes)]),
  );
  const inTins = tins.reduce((n, t) => n + (t.x[1] - t.x[0]) * (t.y[1] - t.y[0]) * (t.z[1] - t.z[0]), 0);
  expect(opened.tins.cells).toBe(inTins);
  expect(opened['chamber air'].cells).toBe(40 * 28 * 36 - inTins);
  expect(opened['chamber air'].fields.map((f) => [f.name, f.components, f.unit])).toEqual([
    ['temperature', 1, '°C'],
    ['velocity', 3, 'm/s'],
    ['pressure', 1, 'Pa'],
  ]);
  for (const file of Object.values(opened)) {
    expect(file).toMatchObject({ time: 0, timeUnit: 's', lengthUnit: 'm' });
    file.readMesh();
    expect(Array.from(file.readField(0)).every((v) => v === START_TEMPERATURE)).toBe(true);
  }
});
