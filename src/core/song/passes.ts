import { compiled } from '../compiled';
import { KERNEL_BASE64 } from './kernel-bytes';

interface Passes {
  bandSums(
    samples: number,
    hann: number,
    length: number,
    size: number,
    places: number,
    turns: number,
    root: 0 | 1,
    firsts: number,
    counts: number,
    weights: number,
    count: number,
    values: number,
    out: number,
  ): void;
  layer(
    input: number,
    width: number,
    count: number,
    weights: number,
    bias: number,
    fours: number,
    taps: number,
    apart: number,
    out: number,
  ): void;
}

/** The compiled passes over sound, or null where the plain ones serve. */
export const hearing = compiled<Passes>(KERNEL_BASE64);

/** The same with a memory of their own, where something is to stay. */
export const ownPasses = () => compiled<Passes>(KERNEL_BASE64)();
