import { expect } from 'chai';
import fc from 'fast-check';
import { chanceFrom, normal } from '../chance/chance.ts';
import { packed, shapeOf, thinned, unpacked, type BaySample } from './samples.ts';

const sample = fc.record(
  {
    at: fc.integer({ min: 1_700_000_000_000, max: 1_900_000_000_000 }),
    volts: fc.integer({ min: -32_000, max: 64_000 }).map((mV) => mV / 1000),
    amps: fc.integer({ min: -500_000, max: 500_000 }).map((mA) => mA / 1000),
    tempC: fc.integer({ min: -400, max: 1200 }).map((tenths) => tenths / 10),
  },
  { requiredKeys: ['at'] },
);

/** A charge that holds its voltage, seen by a meter with noise. */
function tenMinutes(): BaySample[] {
  const chance = chanceFrom('ten minutes');
  return Array.from({ length: 600 }, (_, second) => ({
    at: 1_800_000_000_000 + 1000 * second,
    volts: 14.4 + 0.002 * normal(chance),
    amps: 1.2 * Math.exp(-second / 4000) + 0.002 * normal(chance),
    tempC: 24 + second / 3000,
  }));
}

describe('readings each second', () => {
  it('come back as they were written, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(sample, { maxLength: 50 }), (samples) => {
        const inOrder = samples.toSorted((a, b) => a.at - b.at);
        expect(unpacked(packed(inOrder))).to.deep.equal(inOrder);
      }),
      { seed: 7, numRuns: 300 },
    );
  });

  it('ten minutes of them take no more than four bytes each', () => {
    const samples = tenMinutes();
    expect(packed(samples).length / samples.length).to.be.below(4.5);
    for (const [index, { volts, amps }] of unpacked(packed(samples)).entries()) {
      expect(volts).to.be.closeTo(samples[index]?.volts ?? 0, 0.0005);
      expect(amps).to.be.closeTo(samples[index]?.amps ?? 0, 0.0005);
    }
  });

  it('what is cut off, or of another version, is not taken for readings', () => {
    const whole = packed(tenMinutes());
    expect(() => unpacked(whole.slice(0, -3))).to.throw(RangeError, 'cut off');
    expect(() => unpacked(Uint8Array.from([9, ...whole.slice(1)]))).to.throw(RangeError, 'another version');
  });

  it('thinned for a screen they keep what stood out', () => {
    const samples = tenMinutes();
    const spiked = samples.map((one, index) => (index === 333 ? { ...one, volts: 15.9 } : one));
    const stretches = thinned(spiked, 40);
    expect(stretches).to.have.length.within(30, 40);
    expect(Math.max(...stretches.map(({ volts }) => volts?.[1] ?? 0))).to.equal(15.9);
    expect(stretches[0]?.from).to.equal(samples[0]?.at);
    expect(stretches.at(-1)?.to).to.equal(samples.at(-1)?.at);
    expect(thinned([], 40)).to.deep.equal([]);
  });

  it('once they are old keep their shape: a minute’s first, and what stood out in it', () => {
    const samples = Array.from({ length: 600 }, (_, second) => ({
      at: second * 1000,
      volts: second === 333 ? 11.2 : 12.6,
      amps: second === 77 ? 9 : 2,
    }));
    const shape = shapeOf(samples);
    expect(shape.length).to.be.within(10, 40);
    expect(shape.map(({ at }) => at)).to.include.members([0, 60_000, 77_000, 333_000, 540_000]);
    expect(thinned(shape, 1)).to.deep.equal([
      { from: 0, to: shape.at(-1)?.at, volts: [11.2, 12.6], amps: [2, 9] },
    ]);
    expect(shapeOf(shape), 'no less of it is left the next time').to.deep.equal(shape);
    expect(shapeOf([])).to.deep.equal([]);
  });
});
