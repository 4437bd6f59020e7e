import { shippedLook } from './shipped-look.ts';

/** The plainest of all. */
export const paper = shippedLook({
  id: 'paper',
  name: 'paper',
  purpose: 'as scenes begin: soft light on warm white',
});
