import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import { sayAsk } from '#core/scene/ask.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import type { Reading } from '#core/scene/reading.ts';
import { ArraySource } from '#engine/array-source.ts';
import { GaugeAnswers } from '#engine/gauge-answers.ts';
import { GeometryMaker } from '#engine/geometry-maker.ts';
import { measureParts } from '#engine/measuring.ts';
import { Ranges } from '#engine/ranges.ts';
import { readRuns } from '../read-run.ts';

// Facts computed from the files by a script that shares nothing with this project; see the README of the fixtures.
const {
  shelf,
  cavity,
  family,
  wire,
  nozzle,
  'duct-parts': duct,
} = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));

interface Asked {
  run: RunDescription;
  scene: Scene;
  ask(text: string, step?: number): Promise<Reading>;
}

async function opened(...paths: string[]): Promise<Asked> {
  const { runs, array } = await readRuns(paths);
  const run = withOfferedQuantities(runs[0]);
  const scene = defaultScene(run);
  const maker = new GeometryMaker(
    new ArraySource(async (ref) => {
      const data = array(ref);
      return data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer;
    }),
  );
  const gauges = new GaugeAnswers(new Ranges(run, null), (requests) => measureParts(maker, requests));
  const ask = async (text: string, step = 0): Promise<Reading> => {
    const read = readAsk(text, scene, run);
    if ('at' in read) throw new Error(`${text}: not understood at ${read.at}`);
    // What was understood is understood again, as the same.
    const again = readAsk(sayAsk(read, scene, run), scene, run);
    expect('at' in again ? again : { ...again, on: again.on.chain }, sayAsk(read, scene, run)).toMatchObject({
      measure: read.measure,
      options: read.options,
    });
    return gauges.at(read, scene, step);
  };
  return { run, scene, ask };
}

/** Single precision, as the files have it. */
const near = (found: number | number[], expected: number, share = 1e-6): void =>
  expect(Math.abs((found as number) / expected - 1), `${found} for ${expected}`).toBeLessThan(share);

describe('the shelf', () => {
  let plate: Asked;
  beforeAll(async () => {
    plate = await opened('tests/fixtures/shelf/shelf.vtu');
  });
  const { integrals, regions } = shelf;

  it('has the volume, and the integrals, of its tetrahedra', async () => {
    near((await plate.ask('volume of everything')).value, integrals.volume);
    near((await plate.ask('integral of mises over everything')).value, integrals.mises_integral);
    const { value } = await plate.ask('integral of displacement over everything');
    for (const [k, v] of integrals.displacement_integral.entries()) near((value as number[])[k], v, 2e-5);
    const [steel, bars] = Object.values(regions) as { cells: number; volume: number }[];
    for (const [number, { cells, volume }] of [steel, bars].entries()) {
      near((await plate.ask(`volume of everything where region = ${number + 1}`)).value, volume);
      expect((await plate.ask(`count of everything where region = ${number + 1}`)).value).toBe(cells);
    }
  });

  it.each([
    ['x = 0.12', 'section_x_0p12'],
    ['z = 0.003', 'section_z_0p003'],
  ])('has the area and the values of its section at %s', async (at, name) => {
    const { area, field_area_mean, field_min, field_max } = integrals[name];
    near((await plate.ask(`area of section of everything at ${at}`)).value, area);
    near(
      (await plate.ask(`area average of mises over section of everything at ${at}`)).value,
      field_area_mean,
      1e-5,
    );
    near((await plate.ask(`minimum of mises over section of everything at ${at}`)).value, field_min, 1e-5);
    near((await plate.ask(`maximum of mises over section of everything at ${at}`)).value, field_max, 1e-5);
  });

  it('has the area of an isosurface, and its largest stress where that is', async () => {
    const iso = await plate.ask('area of isosurface of everything where mises = 2e6');
    near(iso.value, integrals.isosurface_mises_2e6.area, 1e-5);
    const { value, place } = await plate.ask('maximum of mises over everything');
    near(value, shelf.fields.mises.first.max);
    // The file's own is the same as that made of its tensor, as the script found too.
    const made = await plate.ask('maximum of von Mises of stress over everything');
    near(made.value, shelf.fields.mises.first.max);
    expect(made.place).toEqual(place);
    for (const [k, v] of integrals.largest_mises_point.entries()) expect(place![k]).toBeCloseTo(v, 6);
  });
});

it('the shelf weighs what its steel and aluminium do', async () => {
  const { ask } = await opened('tests/fixtures/shelf/shelf.vtu');
  const { value } = await ask(
    'integral of (9.81 m/s² * (region = 1 ? 7900 kg/m³ : 2700 kg/m³)) over everything',
  );
  near(value, shelf.integrals.weight_N_from_7900_and_2700_kg_m3);
});

describe('the cavity', () => {
  let air: Asked;
  let last: number;
  beforeAll(async () => {
    air = await opened('tests/fixtures/cavity/cavity.pvd');
    last = air.run.steps.length - 1;
  });

  it('is flat: it has an area, and says that it has no volume', async () => {
    near((await air.ask('area of everything')).value, cavity.integrals.area);
    await expect(air.ask('volume of everything')).rejects.toThrow(
      'no volume: they are surfaces, which have an area',
    );
  });

  it('has the integral of its temperature at the first and the last step', async () => {
    near((await air.ask('integral of T over everything')).value, cavity.integrals.T_integral_first);
    near((await air.ask('integral of T over everything', last)).value, cavity.integrals.T_integral_last);
  });

  it('has its fastest air on the middle lines where the script found it', async () => {
    const { largest_u_on_x_0p5: u, largest_v_on_y_0p5: v } = cavity.integrals;
    const across = await air.ask('maximum of velocity x over section of everything at x = 0.5', last);
    near(across.value, u.at_points);
    expect(across.place![1]).toBeCloseTo(u.y_at_points, 6);
    const up = await air.ask('maximum of velocity y over section of everything at y = 0.5', last);
    near(up.value, v.at_points);
    expect(up.place![0]).toBeCloseTo(v.x_at_points, 6);
    // Between the points a spline goes higher: the script looked at every ten thousandth of the line.
    const over = await air.ask(
      'maximum of velocity x over section of everything at x = 0.5, through a spline',
      last,
    );
    near(over.value, u.spline);
    expect(Math.abs(over.place![1] - u.y_spline)).toBeLessThan(1e-4);
    near(over.value, u.published_1983, 5e-4);
    const upwards = await air.ask(
      'maximum of velocity y over section of everything at y = 0.5, through a spline',
      last,
    );
    near(upwards.value, v.spline);
    expect(Math.abs(upwards.place![0] - v.x_spline)).toBeLessThan(1e-4);
    near(upwards.value, v.published_1983, 1e-3);
  });

  it('has the Nusselt number of the published benchmark at its walls, half way, and in the mean', async () => {
    // De Vahl Davis, Int. J. Numer. Meth. Fluids 3 (1983) 249: 4.519 for a Rayleigh number of 1e5.
    const { nusselt } = cavity.integrals;
    const heat = 'velocity.x * T - gradient(T).x';
    for (const [asked, share] of [
      ['average of (-wall_gradient(T).x) over section of everything at x = 0', 1e-3],
      ['average of (-wall_gradient(T).x) over section of everything at x = 1', 1e-3],
      [`average of (${heat}) over section of everything at x = 0.5`, 2e-3],
      [`average of (${heat}) over everything`, 2e-3],
    ] as const) {
      const { value } = await air.ask(asked, last);
      near(value, nusselt.hot_wall_solver_log_last, share);
      near(value, nusselt.published_1983, 2e-3);
    }
    // At the wall it is that of one-sided differences of the second order, as the script has it.
    const wall = await air.ask('average of (-wall_gradient(T).x) over section of everything at x = 0', last);
    near(wall.value, nusselt.hot_wall_from_points_second_order_one_sided, 5e-4);
    // And over time as the solver logged it, once the sudden start has spread over some cells.
    for (const step of [8, 12, 16, 19]) {
      const { value } = await air.ask(
        'average of (-wall_gradient(T).x) over section of everything at x = 0',
        step,
      );
      near(value, nusselt.hot_wall_solver_log_all_steps[step], 0.02);
    }
  });
});

it('the ovens of the family have the sums of their cells, and their mean temperature at 0.2 m', async () => {
  for (const { file, ...facts } of family.case) {
    if (!['case_01.vtu', 'case_05.vtu', 'case_09.vtu', 'case_12.vtu'].includes(file)) continue;
    const { ask } = await opened(`tests/fixtures/family/${file}`);
    near((await ask('volume of everything')).value, facts.volume);
    near((await ask('integral of T_cell over everything')).value, facts.T_cell_integral);
    near((await ask('average of T_cell over everything where load = 1')).value, facts.T_cell_mean_over_load);
    const { value } = await ask('area average of T over section of everything at z = 0.2');
    near(value, facts.section_z_0p2_T_mean, 1e-5);
  }
});

describe('what is packed', () => {
  const at = (name: string): string => `tests/fixtures/samples/${name}`;

  it('the duct in four partitions is one, without its ghosts', async () => {
    const { joined } = duct;
    const { ask, run } = await opened(at('duct-parts.zip'));
    const last = run.steps.length - 1;
    near((await ask('volume of everything', last)).value, joined.volume);
    for (const step of run.steps.keys())
      near((await ask('average of T over everything', step)).value, joined.T_mean_by_volume[step]);
    const { inlet_leg, bend_45deg, outlet_leg } = joined.sections_last_step;
    for (const [where, facts] of [
      ['at x = 0.1', inlet_leg],
      ['across (0.7071067811865476, 0.7071067811865476, 0) at 0.24748737341529164', bend_45deg],
      ['at y = 0.22', outlet_leg],
    ] as const) {
      const section = `section of everything ${where}`;
      near((await ask(`area of ${section}`, last)).value, facts.area, 1e-5);
      near((await ask(`average of T over ${section}`, last)).value, facts.T_mean, 1e-5);
      near((await ask(`flow of velocity through ${section}`, last)).value, facts.volume_flow, 1e-5);
    }
    near(
      (await ask('area of isosurface of everything where T = 150', last)).value,
      joined.isosurface_T_150_last_area,
      1e-4,
    );
  });

  it('atoms are counted as they are at each step, subsets of them too', async () => {
    const { ask } = await opened(at('wire.dump.gz'));
    for (const step of [0, 1]) {
      const { n_csp_4_to_9 } = wire.defect_curve[step];
      expect((await ask('count of everything where c_csp >= 4 and c_csp <= 9', step)).value).toBe(
        n_csp_4_to_9,
      );
    }
    // What came less what left is the difference of both counts.
    const marked = '"c_csp >= 4 and c_csp <= 9"';
    const came = (await ask(`count of arrivals of everything to where ${marked}`, 1)).value as number;
    const left = (await ask(`count of departures of everything from where ${marked}`, 1)).value as number;
    const [first, second] = [0, 1].map((step) => wire.defect_curve[step].n_csp_4_to_9 as number);
    expect(came).toBeGreaterThan(0);
    expect(came - left).toBe(second - first);
    // At the first step nobody knows: that is no zero.
    await expect(ask(`count of arrivals of everything to where ${marked}`, 0)).rejects.toThrow(
      /no earlier step: at the first one nothing has come or gone/,
    );
  });

  it('landed drops have their mass, number and mean diameter', async () => {
    const { ask } = await opened(at('landings.dat.gz'));
    near((await ask('sum of mass over everything')).value, nozzle.total_mass);
    near((await ask('average of diameter over everything')).value, nozzle.diameter.d10);
    expect((await ask('count of everything')).value).toBe(nozzle.rows);
  });

  it('the chamber has the area of its triangles', async () => {
    const { ask } = await opened(at('chamber.stl'));
    near((await ask('area of everything')).value, nozzle.stl.area, 1e-5);
  });
});
