/** Runs a first charge forward on the cell model, off the main thread. */
import { expose } from 'comlink';
import { forecastFirstCharge } from '@cork-ember/core/charge/firstChargeForecast.ts';

const forecaster = { forecastFirstCharge };

export type Forecaster = typeof forecaster;

expose(forecaster);
