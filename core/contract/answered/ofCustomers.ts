/** What the server answers of customers. */
import Joi from 'joi';
import type { Machine } from '../../battery/machines.ts';
import type { BatteryRecord } from '../answers.ts';
import type { Customer, CustomerData, Forgotten } from '../customers.ts';
import { battery, machine, shelfEvent } from './ofBatteries.ts';
import { event } from './ofJobs.ts';
import { count, id, listOf, moment, objectOf, words } from './parts.ts';

export const OF_CUSTOMERS = {
  Customers: listOf(objectOf<Customer>({ name: words, batteries: count, machines: count })),
  CustomerData: objectOf<CustomerData>({
    format: Joi.string().valid('cork-ember-customer').required(),
    version: Joi.number().valid(1).required(),
    name: words,
    at: moment,
    shop: words,
    program: words,
    batteries: listOf(objectOf<BatteryRecord>(battery)),
    machines: listOf(objectOf<Machine>(machine)),
    jobs: listOf(Joi.object({ job: id, events: listOf(event) })),
    shelf: listOf(shelfEvent),
  }),
  Forgotten: objectOf<Forgotten>({
    batteries: count,
    machines: count,
    jobs: count,
    stillSaid: listOf(Joi.string()),
  }),
} as const;
