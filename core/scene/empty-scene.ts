import { CURRENT_VERSION, type Scene } from './document.ts';
import { eachThing, type SceneThings } from './things/registry.ts';

/** A scene that shows nothing, all of it as plain as it can be. */
export const emptyScene = (name = 'Scene'): Scene => ({
  version: CURRENT_VERSION,
  name,
  layers: [],
  parts: {},
  sets: [],
  quantities: [],
  scales: [],
  annotations: [],
  scenery: [],
  cameras: [],
  gauges: [],
  charts: [],
  lanes: [],
  markers: [],
  step: 0,
  onward: 0,
  ...(JSON.parse(JSON.stringify(eachThing((thing) => thing.plain))) as SceneThings),
});
