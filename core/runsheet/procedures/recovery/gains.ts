/** What ways have gained so far, by the tester, charged and brought to 25 °C (handbook 3.4). */
import { testerAt25 } from '../../../battery/testerWarmth.ts';
import type { StepContext } from '../../definition/step.ts';
import { numberOf } from '../../../units/values.ts';

/** Cranking at 25 °C as a tester read it at a step of one round; undefined where it cannot be told. */
function testerIn(context: StepContext, stepId: string, round: number): number | undefined {
  const values = context.valuesIn(stepId, round);
  const { testerA } = values;
  const tempC =
    values['tempC'] ?? (stepId === 'first-tester' ? context.valuesOf('first-ocv')['tempC'] : undefined);
  if (typeof testerA !== 'number') return undefined;
  const told = testerAt25(testerA, numberOf(tempC));
  return told.isTold ? told.amps : undefined;
}

/** The first figure counts only of a battery that came charged, or what is gained is charge. */
function firstIfCharged(context: StepContext): number | undefined {
  const { ocvV } = context.valuesOf('first-ocv');
  return typeof ocvV === 'number' && ocvV >= context.threshold('passOcvV').value
    ? testerIn(context, 'first-tester', 1)
    : undefined;
}

/** A gain below this is none, share of the reading before. */
const GAIN = 0.02;

/** Of each weekly test, whether it gained on the one before. */
export function pulseGains(context: StepContext): readonly boolean[] {
  const rounds = context.routes.filter(({ route }) => route === 'pulse').map(({ round }) => round);
  const all = [
    firstIfCharged(context),
    ...rounds.map((round) => testerIn(context, 'pulse-read', round)),
  ].filter((one) => one !== undefined);
  return all.slice(1).map((now, index) => now >= (all[index] ?? now) * (1 + GAIN));
}

const TESTED_CHARGED = ['pulse-read', 'prove-load', 'cycle-read'] as const;

/** Cranking at 25 °C as it was read charged, the first first, each with the step that read it. */
export function testedCharged(
  context: StepContext,
): readonly { readonly stepId: string; readonly amps: number }[] {
  const first = firstIfCharged(context);
  const later = Array.from({ length: context.round }, (_, index) => index + 1).flatMap((round) =>
    TESTED_CHARGED.flatMap((stepId) => {
      const amps = testerIn(context, stepId, round);
      return amps === undefined ? [] : [{ stepId, amps }];
    }),
  );
  return [...(first === undefined ? [] : [{ stepId: 'first-tester', amps: first }]), ...later];
}
