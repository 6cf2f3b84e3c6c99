import { expect } from 'chai';
import { clockMinutes, delimiterOf, keptOf, LogError, readLog, recognise, type Log } from './log.ts';

const table = (text: string): string[][] => {
  const delimiter = delimiterOf(text);
  return text
    .trim()
    .split('\n')
    .map((line) => line.split(delimiter));
};
const logOf = (text: string): Log => {
  const rows = table(text);
  return readLog(rows, recognise(rows));
};

describe('the delimiter of a log', () => {
  for (const [what, text, expected] of [
    ['semicolons, decimal commas', 'Zeit;U (V);I (A)\n0;12,1;4,0\n60;12,2;4,0', ';'],
    ['commas', 'time,volts,amps\n0,12.1,4\n60,12.2,4', ','],
    ['tabs', 'time\tvolts\tamps\n0\t12.1\t4', '\t'],
    ['bars', 'time|volts|amps\n0|12.1|4', '|'],
  ] as const)
    it(`is recognised: ${what}`, () => {
      expect(delimiterOf(text)).to.equal(expected);
    });

  it('is missing from a letter', () => {
    expect(() => delimiterOf('Dear all\nthe battery is well\nregards')).to.throw(LogError, 'no table');
  });
});

describe('a clock', () => {
  for (const [text, expected] of [
    ['00:05:30', 5.5],
    ['36:00', 36 * 60],
    ['1970-01-02 00:01:00', 1441],
    ['1970-01-02T00:01:00Z', 1441],
    ['02.01.1970 00:01', 1441],
    ['00:00:00,5', 0.5 / 60],
  ] as const)
    it(`“${text}” is ${expected} min`, () => {
      expect(clockMinutes(text)).to.be.closeTo(expected, 1e-9);
    });

  it('is not a voltage', () => {
    expect(Number.isNaN(clockMinutes('12.60'))).to.equal(true);
  });
});

describe('a log', () => {
  it('with decimal commas, seconds and millivolts reads as minutes, volts and amperes', () => {
    const { minutes, volts, amps, tempC } = logOf(
      'Zeit (s);Spannung (mV);Strom (mA)\n0;12100;4000,5\n90;12250;3990',
    );
    expect([...minutes]).to.deep.equal([0, 1.5]);
    expect([...volts]).to.deep.equal([12.1, 12.25]);
    expect(amps[0]).to.be.closeTo(4.0005, 1e-9);
    expect(tempC).to.equal(undefined);
  });

  it('with dates, Fahrenheit and lines above its heading is read from its first row on', () => {
    const log = logOf(
      'Logger 7,serial 4411,,\nDate,Voltage [V],Current [A],Temp (°F)\n2026-03-10 23:59:30,12.1,4.0,77\n2026-03-11 00:00:30,12.2,3.9,86',
    );
    expect([...log.minutes]).to.deep.equal([0, 1]);
    expect([...(log.tempC ?? [])].map((value) => Math.round(value))).to.deep.equal([25, 30]);
  });

  it('by a clock without a date goes over midnight', () => {
    expect([...logOf('time;U;I\n23:50:00;12.1;4\n00:10:00;12.2;4\n01:10:00;12.3;4').minutes]).to.deep.equal([
      0, 20, 80,
    ]);
  });

  it('in hours is not taken for seconds', () => {
    expect([...logOf('Elapsed (h),V,A\n0,12.1,4\n1.5,12.2,4').minutes]).to.deep.equal([0, 90]);
  });

  it('leaves out rows with a gap, and says how many', () => {
    const log = logOf('t (s),U (V),I (A)\n0,12.1,4\n60,,4\n120,12.3,4');
    expect(log.minutes).to.have.length(2);
    expect(log.skipped).to.equal(1);
  });

  for (const [what, text, sentence] of [
    ['no voltage', 'time (s);I (A);x\n0;4;1\n60;4;1', 'Say which column holds the voltage'],
    ['time runs back', 't (s);U (V);I (A)\n60;12.1;4\n0;12.2;4', 'Row 3: its time is before'],
    ['no numbers', 'a;b\nc;d\ne;f', 'no row of numbers'],
    ['one row', 't (s);U (V);I (A)\n60;12.1;4', 'a log needs two'],
  ] as const)
    it(`is refused in one sentence: ${what}`, () => {
      expect(() => logOf(text)).to.throw(LogError, sentence);
    });
});

describe('a log thinned for the record', () => {
  const count = 20_000;
  const log: Log = {
    minutes: Float64Array.from({ length: count }, (_, index) => index / 10),
    volts: Float64Array.from({ length: count }, (_, index) =>
      index === 12_345 ? 15.9 : 13 + index / 20_000,
    ),
    amps: Float64Array.from({ length: count }, (_, index) => (index === 777 ? 0.01 : 4)),
    tempC: undefined,
    skipped: 0,
  };

  it('keeps its peak, its dip, its first and its last row, in order', () => {
    const kept = keptOf(log, 40);
    expect(kept).to.include.members([0, 777, 12_345, count - 1]);
    expect(kept).to.deep.equal([...kept].sort((a, b) => a - b));
    expect(kept.length).to.be.at.most(40 * 5 + 2);
  });
});
