import { expect } from 'chai';
import { EVERY_FAULT } from '../test/modelBench.ts';
import { randomBattery, trial, type ChargeId } from '../test/chargeTrial.ts';

/** As many as fit a test run; `npm run stop-figures` charges 500 of each. */
const EACH = 40;

describe('the stop rules on batteries of the model, with the instruments’ errors', () => {
  for (const kind of ['sound', 'sulfated'] as const)
    it(`stop none of ${EACH} ${kind} batteries, whatever they are charged with, at 5, 21 and 32 °C`, () => {
      for (let index = 0; index < EACH; index++) {
        const { subject, charges } = randomBattery(kind, index);
        for (const charge of charges) {
          const { stopped, end } = trial(charge, subject, `${kind} ${index}`);
          expect(stopped, `${subject.typeId} ${charge} ${JSON.stringify(stopped)}`).to.equal(undefined);
          if (kind === 'sound') expect(end, `${subject.typeId} ${charge}`).to.equal('done');
        }
      }
    });

  for (const typeId of ['BK-A12/55', 'BK-F12/70', 'TQ-F6/11'])
    for (const charge of [0.1, 0.5, 0.95])
      it(`find a dead cell of ${typeId} within four hours, its neighbours ${charge * 100} % charged`, () => {
        const faults = EVERY_FAULT.find(([name]) => name === 'dead short')?.[1] ?? [];
        const inCell = faults.map((fault) => ({ ...fault, cell: 2 }));
        const ids: ChargeId[] = ['slow', typeId.includes('-F') ? 'current' : 'soak', 'charge'];
        for (const id of ids) {
          const found = trial(
            id,
            { typeId, condition: { charge }, faults: inCell, batteryC: 21, roomC: 21 },
            id,
          );
          expect(found.stopped?.rule, id).to.be.oneOf(['dead-cell', 'short-heating']);
          expect(found.hours, id).to.be.at.most(4);
        }
      });

  it('are tried on batteries of every type, not on one over and over', () => {
    const types = new Set(
      Array.from({ length: 200 }, (_, index) => randomBattery('sound', index).subject.typeId),
    );
    expect(types.size).to.equal(13);
  });

  it('an open cell is never proven full: it takes no current at all', () => {
    const faults = [{ kind: 'open', cell: 2 }] as const;
    for (const id of ['charge', 'slow'] as const)
      expect(
        trial(id, { typeId: 'BK-A12/55', condition: { charge: 0.8 }, faults, batteryC: 21, roomC: 21 }, id)
          .end,
      ).to.equal('time');
  });
});
