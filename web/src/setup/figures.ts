import { numberIn } from '@cork-ember/core/units/region.ts';

/** "0.8 2 5" or "0,8; 2; 5": the settings of a knob, as they are read off it; what is no figure above 0 is left out. */
export const figuresIn = (text: string): readonly number[] =>
  text
    .split(/[\s;/]+/)
    .map((one) => numberIn(one))
    .filter((one) => one > 0);
