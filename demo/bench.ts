import type { DemoRun } from './demo-run.ts';
import { oven } from './oven/oven.ts';
import { crystal } from './runs/crystal.ts';
import { deckPlate } from './runs/deck-plate.ts';
import { fanAndVent } from './runs/fan-and-vent.ts';
import { fanRotor } from './runs/fan-rotor.ts';
import { flourDust } from './runs/flour-dust.ts';
import { microwaveChamber } from './runs/microwave-chamber.ts';
import { rackHookLoad, rackHookModes } from './runs/rack-hook.ts';
import { steamDuct } from './runs/steam-duct.ts';
import { ventDesigns } from './runs/vent-designs.ts';

/** The runs of the bakery's bench, one for each kind of work. A new one is a file and a line here; the oven comes first. */
export const demoRuns: readonly DemoRun[] = [
  oven,
  rackHookLoad,
  rackHookModes,
  fanRotor,
  flourDust,
  steamDuct,
  microwaveChamber,
  deckPlate,
  ventDesigns,
  crystal,
  fanAndVent,
];
