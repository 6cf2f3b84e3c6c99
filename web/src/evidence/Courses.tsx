/** Every way back open to it, side by side; and what is not open, with the rule that shuts it. */
import { MONEY } from '@cork-ember/core/units/localise.ts';
import { Fragment } from 'react';
import type { Comparison } from '@cork-ember/core/advice/compare.ts';
import { isOfTheHouse, type Ways } from '@cork-ember/core/advice/courses.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { here, isOtherwiseHere } from '../region/shopRegion.ts';
import { Odds } from '../judgement/Odds.tsx';
import { hoursWords } from '@cork-ember/core/advice/recommend.ts';

/** With a minus that is one. */
const whole = (amount: number): string => amount.toFixed(0).replace('-', '−');

const CELL = 'border-t border-line px-1.5 py-2.5 align-top';

export function Courses({ comparison, ways }: { comparison: Comparison; ways: Ways }) {
  const isWatered = comparison.scored.some(({ waterMl }) => waterMl > 0);
  const best = comparison.scored.find(({ course }) => isOfTheHouse(course));
  return (
    <section aria-labelledby="courses-title" className="rounded-xl border border-line bg-card p-5">
      <h2 id="courses-title" className="text-lg font-bold">
        Ways back, side by side
      </h2>
      <p className="text-soft">
        Each is run on the candidates up to its proof. Pulses count at their average current; salts and
        additives are not forecast. Worth is what it brings whoever has it, less what it still costs.
      </p>
      <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-labelledby="courses-title">
        <table className="w-full min-w-[560px] border-collapse text-left">
          <thead>
            <tr className="text-sm text-soft">
              <th className="px-1.5 pb-1 font-medium">Way</th>
              <th className="w-40 px-1.5 pb-1 lg:w-52 font-medium">Comes back as</th>
              <th className="px-1.5 pb-1 text-right font-medium">Worth</th>
              <th className="px-1.5 pb-1 text-right font-medium">Time</th>
              <th className="px-1.5 pb-1 text-right font-medium">Hands, min</th>
              <th className="px-1.5 pb-1 text-right font-medium">kWh</th>
              {isWatered && <th className="px-1.5 pb-1 text-right font-medium">Water, mL</th>}
              <th className="px-1.5 pb-1 text-right font-medium">Cost</th>
            </tr>
          </thead>
          <tbody>
            {comparison.scored.map((one) => (
              <Fragment key={one.course.id}>
                <tr>
                  <th scope="row" className={`${CELL} ${one === best ? 'font-bold' : 'font-medium'}`}>
                    {one.course.title}
                  </th>
                  <td className={CELL}>
                    <Odds odds={one.odds} />
                  </td>
                  <td className={`reading ${CELL} text-right`}>
                    <span className="font-bold">{moneyText(one.worth)}</span>
                    <span className="block text-sm text-soft whitespace-nowrap">
                      {whole(one.worthLow)} to {whole(one.worthHigh)} {MONEY}
                    </span>
                  </td>
                  <td className={`reading ${CELL} text-right whitespace-nowrap`}>{hoursWords(one.hours)}</td>
                  <td className={`reading ${CELL} text-right`}>{one.handsMin.toFixed(0)}</td>
                  <td className={`reading ${CELL} text-right`}>{(one.mainsWh / 1000).toFixed(2)}</td>
                  {isWatered && (
                    <td className={`reading ${CELL} text-right`}>
                      {here(one.waterMl, 'mL').toFixed(isOtherwiseHere('mL') ? 1 : 0)}
                    </td>
                  )}
                  <td className={`reading ${CELL} text-right whitespace-nowrap`}>{moneyText(one.cost)}</td>
                </tr>
                {one.course.wants !== undefined && (
                  <tr>
                    <td colSpan={isWatered ? 8 : 7} className="px-1.5 pb-2.5 text-sm text-brass-ink">
                      Wants a reason: {one.course.wants}
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </table>
      </div>
      {ways.forbidden.length > 0 && (
        <details className="mt-2">
          <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
            Not open to it, and why ({ways.forbidden.length})
          </summary>
          <ul className="space-y-1 pb-2">
            {ways.forbidden.map(({ title, why }) => (
              <li key={title}>
                <span className="font-medium">{title}:</span> <span className="text-soft">{why}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
