import type { StartingConfiguration } from './build.ts';
import { engineering } from './engineering.ts';
import { laboratory } from './laboratory.ts';
import { quality } from './quality.ts';

/** The configurations that ship, to begin with. */
export const STARTING_CONFIGURATIONS: readonly StartingConfiguration[] = [quality, engineering, laboratory];
