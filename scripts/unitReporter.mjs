// @ts-check
// Mocha's short output on the screen, and its counts as JSON for the summing up.
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import Mocha from 'mocha';

export default class UnitReporter extends Mocha.reporters.Dot {
  /**
   * @param {Mocha.Runner} runner
   * @param {Mocha.MochaOptions} options
   */
  constructor(runner, options) {
    super(runner, options);
    runner.once('end', () => {
      const { passes, failures, pending } = runner.stats ?? { passes: 0, failures: 1, pending: 0 };
      const file = options.reporterOptions.output;
      mkdirSync(dirname(file), { recursive: true });
      writeFileSync(file, JSON.stringify({ passed: passes, failed: failures + pending }));
    });
  }
}
