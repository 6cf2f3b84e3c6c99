import { expect } from 'chai';
import fc from 'fast-check';
import { GENERIC_PUSH } from './genericProfiles.ts';
import type { DeviceProfile } from './profile.ts';
import { MOST_PUSHED, pushedSamples } from './push.ts';
import { DeviceError } from './wire.ts';

const NOW = Date.parse('2026-03-10T11:06:00Z');
const troubleWith = (message: unknown, profile: DeviceProfile = GENERIC_PUSH): string => {
  try {
    pushedSamples(profile, message, NOW);
    return 'none';
  } catch (error) {
    if (error instanceof DeviceError) return error.message;
    throw error;
  }
};

describe('what a probe sends by itself', () => {
  it('is one reading, or many that had to wait, the oldest first', () => {
    expect(pushedSamples(GENERIC_PUSH, { volts: 12.61 }, NOW)).to.deep.equal([{ at: NOW, volts: 12.61 }]);
    expect(
      pushedSamples(
        GENERIC_PUSH,
        [
          { tempC: 24, rssi: -61 },
          { tempC: 23.5, agoS: 2.5, amps: null },
        ],
        NOW,
      ),
    ).to.deep.equal([
      { at: NOW - 2500, tempC: 23.5 },
      { at: NOW, tempC: 24 },
    ]);
  });

  it('goes by the names its profile has for them', () => {
    const own: DeviceProfile = {
      ...GENERIC_PUSH,
      speech: { protocol: 'push', asks: { tempC: 'case' } },
    };
    expect(pushedSamples(own, { case: 31.5, volts: 'n/a' }, NOW)).to.deep.equal([{ at: NOW, tempC: 31.5 }]);
    expect(troubleWith({ tempC: 31.5 }, own)).to.equal('It sends none of case.');
  });

  for (const [what, message, said] of [
    ['no object', 'hello', 'A reading is an object'],
    ['a list in a list', [[1]], 'A reading is an object'],
    ['nothing', [], 'holds 1 to 600 readings; this one 0'],
    ['too many', Array.from({ length: MOST_PUSHED + 1 }, () => ({ volts: 12 })), 'this one 601'],
    ['no figure', { volts: '12.6' }, 'volts: a number; “12.6” is not.'],
    ['a figure it cannot show', { volts: 400 }, 'It shows 400, and can show -60 to 60.'],
    ['a figure of the future', { volts: 12, agoS: -5 }, 'from 0 to 86400; “-5” is not'],
    ['none of its figures', { humidity: 40 }, 'It sends none of volts, amps, tempC.'],
  ] as const)
    it(`is refused whole where it holds ${what}`, () => {
      expect(troubleWith(message)).to.include(said);
    });

  it('is a figure in range or a trouble, whatever comes', () => {
    fc.assert(
      fc.property(fc.anything(), (message) => {
        try {
          for (const { volts = 0, amps = 0, tempC = 0 } of pushedSamples(GENERIC_PUSH, message, NOW))
            expect([volts, amps, tempC].every((value) => Math.abs(value) <= 210)).to.equal(true);
        } catch (error) {
          expect(error).to.be.instanceOf(DeviceError);
        }
      }),
      { seed: 11, numRuns: 400 },
    );
  });
});
