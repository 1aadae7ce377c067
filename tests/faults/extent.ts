/** How much is tried: a little in every run of all tests, all of it by `./fennip test --faults`. */
export const isFull = process.env['FENNIP_FAULTS'] === 'full';

/** A number of repetitions: the first in every run, the second by command. */
export const times = (always: number, full: number): number => (isFull ? full : always);
