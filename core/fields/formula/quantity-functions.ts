/** A quantity that is made of another one by looking at more than one place or step of it. */
interface QuantityFunction {
  /** How its key begins; see `QuantitySource`. */
  prefix: string;
  /** What it is, for who completes a formula. */
  says: string;
  /** Takes the name of a part instead of a quantity, or the name of a run or the number of a step before it. */
  takes?: 'part' | 'run' | 'step';
}

/** What formulas may call beside functions that go place by place: `gradient(temperature * 2)`. */
export const quantityFunctions: Readonly<Record<string, QuantityFunction>> = {
  gradient: { prefix: 'gradient', says: 'how a number grows in space' },
  wall_gradient: { prefix: 'wall-gradient', says: 'how a number or vector grows in space, at walls only' },
  divergence: { prefix: 'divergence', says: 'how much a vector field flows out' },
  curl: { prefix: 'curl', says: 'how a vector field turns' },
  strain_rate: { prefix: 'strain-rate', says: 'symmetric part of the gradient of a velocity' },
  Q: { prefix: 'Q', says: 'how much more a flow turns than it strains' },
  lambda2: { prefix: 'lambda2', says: 'below zero in vortices' },
  mises: { prefix: 'mises', says: 'von Mises of a stress' },
  tresca: { prefix: 'tresca', says: 'Tresca of a stress' },
  max_shear: { prefix: 'maxshear', says: 'largest shear of a stress' },
  principal1: { prefix: 'principal1', says: 'largest principal value of a tensor' },
  principal2: { prefix: 'principal2', says: 'middle principal value of a tensor' },
  principal3: { prefix: 'principal3', says: 'least principal value of a tensor' },
  triaxiality: { prefix: 'triaxiality', says: 'mean over von Mises of a stress' },
  principal_direction1: { prefix: 'direction1', says: 'along the largest principal value of a tensor' },
  principal_direction2: { prefix: 'direction2', says: 'along the middle principal value of a tensor' },
  principal_direction3: { prefix: 'direction3', says: 'along the least principal value of a tensor' },
  smooth: { prefix: 'smooth', says: 'the mean of what lies around each place' },
  first: { prefix: 'first', says: 'as it is at the first step' },
  last: { prefix: 'last', says: 'as it is at the last step' },
  previous: { prefix: 'previous', says: 'as it is one step before' },
  at_step: { prefix: 'step', says: 'as it is at a step: its number, a comma, the quantity', takes: 'step' },
  in_run: {
    prefix: 'in-run',
    says: 'a quantity as another run has it: its name in quotation marks, a comma, the quantity',
    takes: 'run',
  },
  time_mean: { prefix: 'time-mean', says: 'mean over time' },
  time_max: { prefix: 'time-maximum', says: 'highest over time' },
  time_min: { prefix: 'time-minimum', says: 'least over time' },
  time_rms: { prefix: 'time-rms', says: 'root mean square over time' },
  running_mean: { prefix: 'running-mean', says: 'mean over time so far' },
  time_rate: { prefix: 'time-rate', says: 'how fast it changes' },
  distance: {
    prefix: 'distance',
    says: 'how far it is to a part, by its name in quotation marks',
    takes: 'part',
  },
  step_sum: { prefix: 'step-sum', says: 'sum over the steps' },
};
