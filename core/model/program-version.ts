/** The version of this program, as its package says it. */
export const PROGRAM_VERSION = '0.3.0';
