import { expect } from 'chai';
import { acidConductance } from '../model/conductance.ts';
import { conductivityAt } from '../electrolyte/conductivity.ts';
import { cellEmf, cellEmfSlope, lookUpEmf } from '../electrolyte/emf.ts';
import { freezingPointC } from '../electrolyte/freezing.ts';
import { ceilingsFor } from './ceilings.ts';
import { inrushA, leadsOhm } from './donor.ts';
import { ProfileError, type Purpose, type Subject } from './profile.ts';

const subject = (construction: Subject['construction'], capacityAh: number, labelA?: number): Subject => ({
  construction,
  cells: 6,
  capacityAh,
  ...(labelA === undefined ? {} : { labelA }),
});

describe('hard ceilings', () => {
  // Handbook 2.5 and 3.4: volts on 12 V, amps by capacity.
  const cases: readonly (readonly [Subject, Purpose, amps: number, volts: number])[] = [
    [subject('agm', 9), 'first-charge', 1.8, 15],
    [subject('agm', 12, 1.2), 'first-charge', 1.2, 15],
    [subject('agm', 20), 'first-charge', 3, 15],
    [subject('agm', 30), 'first-charge', 3, 15],
    [subject('agm', 55), 'first-charge', 11, 15],
    [subject('flooded', 70), 'first-charge', 14, 15],
    [subject('agm', 80), 'charge', 40, 15],
    [subject('agm', 80, 20), 'charge', 20, 15],
    [subject('agm', 80, 8), 'charge', 16, 15],
    [subject('agm', 80), 'wake', 40, 15],
    [subject('flooded', 70), 'wake', 35, 16],
    [subject('flooded', 70), 'equalise', 35, 16.2],
    [subject('agm', 80), 'maintain', 40, 13.8],
  ];
  for (const [of, purpose, amps, volts] of cases)
    it(`${of.construction} ${of.capacityAh} Ah${of.labelA ? `, label ${of.labelA} A` : ''}, ${purpose}: ${amps} A, ${volts} V`, () => {
      const ceilings = ceilingsFor(of, purpose);
      expect(ceilings.amps).to.be.closeTo(amps, 1e-9);
      expect(ceilings.volts).to.be.closeTo(volts, 1e-9);
      expect([ceilings.pauseC, ceilings.resumeC]).to.deep.equal([of.construction === 'agm' ? 45 : 50, 40]);
      expect(ceilings.because).to.match(/\.$/);
    });

  it('gel bears 14.4 V at 25 °C and never more there, whatever is printed; 14.8 V in the cold, and no spike above 14.4', () => {
    const gel = subject('gel', 40);
    expect(ceilingsFor(gel, 'charge')).to.include({ amps: 8, chargingV: 14.4, pauseC: 45 });
    expect(ceilingsFor(gel, 'charge').volts).to.be.closeTo(14.8, 1e-9);
    expect(ceilingsFor({ ...gel, labelV: 14.7 }, 'charge').chargingV).to.equal(14.4);
    expect(ceilingsFor({ ...gel, labelV: 14.2 }, 'first-charge').chargingV).to.equal(14.2);
    expect(ceilingsFor(gel, 'pulse').volts).to.equal(14.4);
    expect(ceilingsFor(gel, 'wake').volts).to.equal(14.4);
    expect(ceilingsFor(gel, 'maintain').volts).to.be.closeTo(13.8, 1e-9);
    expect(() => ceilingsFor(gel, 'equalise')).to.throw(ProfileError, 'A gel battery is never equalised');
  });

  it('the label’s quick rate is the most, its voltage too; a wake goes above it under a ceiling of its own', () => {
    const labelled: Subject = { ...subject('agm', 12, 1.2), quickA: 3.6, labelV: 14.4 };
    expect(ceilingsFor(labelled, 'first-charge')).to.include({ amps: 3.6, chargingV: 14.4, volts: 15 });
    expect(ceilingsFor(labelled, 'wake')).not.to.have.property('chargingV');
  });

  it('half for three cells', () => {
    const six = ceilingsFor(subject('flooded', 11), 'wake');
    const three = ceilingsFor({ ...subject('flooded', 11), cells: 3 }, 'wake');
    expect(three.volts).to.be.closeTo(six.volts / 2, 1e-9);
    expect(three.amps).to.equal(six.amps);
  });

  for (const [wrong, sentence] of [
    [{ cells: 7.5 }, 'A battery has 1 to 12 cells in series; 7.5 is not possible.'],
    [{ cells: 13 }, '13 is not possible.'],
    [{ capacityAh: -4 }, 'Capacity must lie above 0 and up to 3000 Ah; -4 Ah does not.'],
    [{ capacityAh: Number.NaN }, 'NaN Ah does not.'],
  ] as const)
    it(`refuse ${JSON.stringify(wrong)} in one sentence`, () => {
      expect(() => ceilingsFor({ ...subject('agm', 9), ...wrong }, 'charge')).to.throw(sentence);
    });
});

describe('a donor’s first current', () => {
  it('is Ohm’s law over both batteries and the leads', () => {
    // 12.6 V against 4.2 V over 3 + 8 + 10 mΩ.
    expect(inrushA(12.6, 4.2, 0.003, 0.008, 0.01)).to.be.closeTo(400, 1e-6);
    expect(inrushA(12.6, 11.8, 0.003, 3, 0.01)).to.be.below(0.3);
    // One that stands higher than its donor takes nothing from it.
    expect(inrushA(12.2, 12.6, 0.003, 0.008, 0.01)).to.equal(0);
  });

  it('is tamed by thin and long leads', () => {
    expect(leadsOhm(2, 10)).to.be.closeTo(0.01164, 1e-5);
    expect(leadsOhm(4, 6)).to.be.above(leadsOhm(2, 6));
    expect(leadsOhm(2, 6)).to.be.above(leadsOhm(2, 25));
  });
});

describe('what the solver looks up', () => {
  it('is the electromotive force and its slope', () => {
    const at = new Float64Array(3);
    for (const m of [1e-5, 0.01, 0.09, 0.11, 1, 4, 8]) {
      at[0] = m;
      lookUpEmf(at);
      expect(at[1]).to.be.closeTo(cellEmf(m), 1e-12);
      expect(at[2]).to.be.closeTo(cellEmfSlope(m), 1e-9 * Math.abs(cellEmfSlope(m)));
    }
  });

  it('is the published conductivity within half a percent, down to ice', () => {
    for (let percent = 4; percent <= 50; percent += 3)
      for (const tempC of [0, 18, 25, 45]) {
        const published = conductivityAt(percent / 100, tempC);
        expect(acidConductance(percent / 100, tempC) / published).to.be.closeTo(1, 0.005);
      }
    const massFraction = 0.12;
    const freezesC = freezingPointC(massFraction);
    expect(acidConductance(massFraction, freezesC - 10)).to.be.below(
      acidConductance(massFraction, freezesC + 0.5) / 50,
    );
  });
});
