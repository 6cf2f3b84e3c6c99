/** Moments a shop can have: whatever lies outside is a slip of the hand or a clock without a battery. */
import Joi from 'joi';

/** 2000-01-01 and 2100-01-01, UTC, ms. */
export const LONG_AGO = 946_684_800_000;
export const FAR_AHEAD = 4_102_444_800_000;

/** A moment by the shop clock, ms. */
export const momentSchema = (label: string): Joi.NumberSchema =>
  Joi.number()
    .integer()
    .min(LONG_AGO)
    .max(FAR_AHEAD)
    .messages({
      'number.min': `${label}: a day and time between the years 2000 and 2100.`,
      'number.max': `${label}: a day and time between the years 2000 and 2100.`,
      '*': `${label}: give a day and time.`,
    });
