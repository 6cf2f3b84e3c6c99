/** Which charger gives this charge: those that suit, how each is set, and why the others do not. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { Ban, PlugZap } from 'lucide-react';
import { fitFirstCharge, type ChargerFit } from '@cork-ember/core/charge/firstChargeFit.ts';
import type { FirstCharge } from '@cork-ember/core/charge/firstCharge.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import type { StepContext } from '@cork-ember/core/runsheet/definition/step.ts';

export interface Offer {
  readonly fits: readonly ChargerFit[];
  readonly misfits: readonly string[];
}

/** The shop's chargers held against this battery; the bay's own comes first. */
export function offerFor(shop: Shop | undefined, context: StepContext, setting: FirstCharge): Offer {
  const { opened, bay, round } = context;
  const own = shop?.bays.find(({ number }) => number === bay)?.charger;
  const ordered = [...(shop?.chargers ?? [])].sort((a, b) => Number(b.id === own) - Number(a.id === own));
  const restedV = context.valuesOf(round === 1 ? STEP.ocvSoak : STEP.testOcv)['ocvV'];
  const tried = ordered.map((charger) =>
    fitFirstCharge(charger, {
      type: opened.type,
      setA: setting.current.value,
      ceilingV: setting.ceiling.value,
      rules: opened.rules,
      ...(typeof restedV === 'number' ? { restedV } : {}),
    }),
  );
  return {
    fits: tried.flatMap((one) => ('fit' in one ? [one.fit] : [])),
    misfits: tried.flatMap((one) => ('reason' in one ? [one.reason] : [])),
  };
}

export function ChargerChoice({
  offer,
  chosen,
  time,
  onChoose,
}: {
  offer: Offer;
  chosen: ChargerFit | undefined;
  /** How long on the chosen one, and when to look. */
  time: string;
  onChoose: (fit: ChargerFit) => void;
}) {
  return (
    <section aria-label="Charger" className="mx-5 mt-4">
      <h3 className="font-semibold">With which charger?</h3>
      {offer.fits.length === 0 && (
        <p className="mt-1 text-clay">None of the shop’s chargers suits; see below why.</p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {offer.fits.map((fit) => (
          <label
            key={fit.charger.id}
            className="flex min-h-13 items-center gap-2 rounded-lg border-2 border-cork px-4 has-checked:border-verdigris has-checked:font-semibold"
          >
            <input
              type="radio"
              name="charger"
              checked={chosen?.charger.id === fit.charger.id}
              onChange={() => onChoose(fit)}
              className="size-5 accent-(--verdigris)"
            />
            {fit.charger.name}
          </label>
        ))}
      </div>
      {chosen && (
        <ol className="mt-3 space-y-1">
          {[...chosen.instructions, time].map((line) => (
            <li key={line} className="flex gap-2">
              <PlugZap aria-hidden className="mt-1 size-4 shrink-0 text-cork-dark" />
              {line}
            </li>
          ))}
        </ol>
      )}
      {offer.misfits.length > 0 && (
        <details className="mt-2">
          <summary className="flex min-h-12 cursor-pointer items-center text-soft underline decoration-cork underline-offset-4">
            Why not another ({offer.misfits.length})
          </summary>
          <ul className="space-y-1 text-soft">
            {offer.misfits.map((reason) => (
              <li key={reason} className="flex gap-2">
                <Ban aria-hidden className="mt-1 size-4 shrink-0 text-clay" />
                {reason}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
