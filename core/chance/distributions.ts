/// <reference path="./jstat.d.ts" />
/** Standard distributions, by their library. */
import library from 'jstat';

const { jStat } = library;

/** The ends of a distribution lie at infinity: a share is kept this far from them. */
const LEAST_SHARE = 1e-12;

const inside = (share: number): number => Math.min(1 - LEAST_SHARE, Math.max(LEAST_SHARE, share));

/**
 * Inverse of the standard normal distribution.
 * @param share 0–1
 */
export const normalQuantile = (share: number): number => jStat.normal.inv(inside(share), 0, 1);

/** Chance of a standardised error below this under Student's t. */
export const studentBelow = (z: number, degrees: number): number => jStat.studentt.cdf(z, degrees);

/** Chance of so much or more under chi-square. */
export const chiSquareAbove = (value: number, degrees: number): number =>
  1 - jStat.chisquare.cdf(value, degrees);

/**
 * Inverse of the beta distribution.
 * @param share 0–1
 * @param hits above 0, @param misses above 0
 */
export const betaQuantile = (share: number, hits: number, misses: number): number =>
  jStat.beta.inv(inside(share), hits, misses);
