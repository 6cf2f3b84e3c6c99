import { expect } from 'chai';
import { recognise } from './columns.ts';
import { delimiterOf, keptOf, readLog, type Log } from './log.ts';
import { LogError } from './logError.ts';

const table = (text: string): string[][] => {
  const delimiter = delimiterOf(text);
  return text
    .trim()
    .split('\n')
    .map((line) => line.split(delimiter));
};
const logOf = (text: string): Log => {
  const rows = table(text);
  return readLog(rows, recognise(rows), 'Europe/Oslo');
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

/** Files as loggers write them: minutes, volts, amperes and warmth of their first and last row. */
const SHAPES: readonly (readonly [
  what: string,
  text: string,
  minutes: number,
  volts: number,
  amps: number,
  tempC?: number,
])[] = [
  [
    'seconds, millivolts, decimal commas',
    'Zeit (s);Spannung (mV);Strom (mA)\n0;12100;4000,5\n90;12250;3990',
    1.5,
    12.25,
    3.99,
  ],
  [
    'dates, Fahrenheit, a line above',
    'Logger 7,serial 4411,,\nDate,Voltage [V],Current [A],Temp (°F)\n2026-03-10 23:59:30,12.1,4.0,77\n2026-03-11 00:00:30,12.2,3.9,86',
    1,
    12.2,
    3.9,
    30,
  ],
  ['a clock over midnight', 'time;U;I\n23:50:00;12.1;4\n01:10:00;12.3;4', 80, 12.3, 4],
  ['hours', 'Elapsed (h),V,A\n0,12.1,4\n1.5,12.2,4', 90, 12.2, 4],
  [
    '“Timestamp” is no ampere',
    'Timestamp,Voltage (V),Current (A)\n2026-03-10 08:00:00,12.1,4\n2026-03-10 08:05:00,12.2,3.9',
    5,
    12.2,
    3.9,
  ],
  [
    'a count of samples beside the time',
    'Sample,Time,Voltage,Current\n1,00:00:00,12.1,4\n2,00:00:10,12.2,3.9',
    1 / 6,
    12.2,
    3.9,
  ],
  [
    'a count, seconds since the start',
    'No.,Elapsed time (s),V (V),I (A)\n1,0,12.1,4\n2,60,12.2,3.9',
    1,
    12.2,
    3.9,
  ],
  [
    'date and time in two columns',
    'Date,Time,U (V),I (A)\n2026-03-10,23:58:00,12.1,4\n2026-03-11,00:01:00,12.2,3.9',
    3,
    12.2,
    3.9,
  ],
  [
    'the same with points, time first',
    'Uhrzeit;Datum;U [V];I [A]\n23:58;10.03.2026;12,1;4\n00:01;11.03.2026;12,2;3,9',
    3,
    12.2,
    3.9,
  ],
  [
    'month before day, over midnight',
    'Time,Volts,Amps\n03/01/2026 23:58,12.1,4\n03/02/2026 00:01,12.2,3.9',
    3,
    12.2,
    3.9,
  ],
  [
    'day before month, over midnight',
    'Time,Volts,Amps\n28/02/2026 23:58,12.1,4\n01/03/2026 00:01,12.2,3.9',
    3,
    12.2,
    3.9,
  ],
  [
    'half-days',
    'Date/Time,Volts,Amps\n3/10/2026 11:59:00 AM,12.1,4\n3/10/2026 12:01:00 PM,12.2,3.9',
    2,
    12.2,
    3.9,
  ],
  [
    'ISO with milliseconds and Z',
    'time,voltage,current\n2026-03-10T08:00:00.000Z,12.1,4\n2026-03-10T08:00:30.500Z,12.2,3.9',
    30.5 / 60,
    12.2,
    3.9,
  ],
  [
    'ISO with a zone',
    'time,voltage,current\n2026-03-10T08:00:00+01:00,12.1,4\n2026-03-10T08:10:00+01:00,12.2,3.9',
    10,
    12.2,
    3.9,
  ],
  [
    'the hour set back in autumn',
    'time,voltage,current\n2026-10-25 02:50:00,12.1,4\n2026-10-25 02:10:00,12.2,3.9',
    20,
    12.2,
    3.9,
  ],
  [
    'the hour left out in spring',
    'time,voltage,current\n2026-03-29 01:59:00,12.1,4\n2026-03-29 03:01:00,12.2,3.9',
    2,
    12.2,
    3.9,
  ],
  ['seconds since 1970', 'Timestamp,U (V),I (A)\n1773129600,12.1,4\n1773129660,12.2,3.9', 1, 12.2, 3.9],
  [
    'milliseconds since 1970',
    'Timestamp,U (V),I (A)\n1773129600000,12.1,4\n1773129660000,12.2,3.9',
    1,
    12.2,
    3.9,
  ],
  [
    'days as a spreadsheet counts them',
    'Date;U (V);I (A)\n46091,50000;12,1;4,0\n46091,51000;12,2;3,9',
    14.4,
    12.2,
    3.9,
  ],
  [
    'units in a line of their own',
    'Time;Voltage;Current;Temp\n[s];[mV];[A];[°C]\n0;12100;4;21\n60;12200;3.9;22',
    1,
    12.2,
    3.9,
    22,
  ],
  [
    'settings beside readings',
    'Time (s),Set voltage (V),Voltage (V),Set current (A),Current (A)\n0,14.7,12.1,5,4\n60,14.7,12.2,5,3.9',
    1,
    12.2,
    3.9,
  ],
  [
    'cells, charge and power beside them',
    'Time (min),Battery V,Cell 1 V,I (A),Capacity (Ah),Power (W)\n0,12.1,2.02,4,0,48\n5,12.2,2.03,3.9,0.3,47',
    5,
    12.2,
    3.9,
  ],
  ['channels by their unit', 't (s),Ch A (V),Ch B (A)\n0,12.1,4\n60,12.2,3.9', 1, 12.2, 3.9],
  [
    'names run together',
    'ElapsedTime(s),BatteryVoltage(V),ChargeCurrent(mA),CaseTemp(°C)\n0,12.1,4000,21\n60,12.2,3900,22',
    1,
    12.2,
    3.9,
    22,
  ],
  [
    'a state in words',
    'Time (s),State,Voltage (V),Current (A)\n0,bulk,12.1,4\n60,absorption,12.2,3.9',
    1,
    12.2,
    3.9,
  ],
  [
    'units behind the numbers',
    'Time (min);Voltage;Current\n0;12.10 V;4.00 A\n2;12.20 V;3.90 A',
    2,
    12.2,
    3.9,
  ],
  [
    'thousands parted',
    'Time (s);Voltage (mV);Current (mA)\n0;12,100.0;4,000.0\n60;12,200.0;3,900.0',
    1,
    12.2,
    3.9,
  ],
  ['formula letters over units', 't/s;U/V;I/A\n0;12,1;4,0\n60;12,2;3,9', 1, 12.2, 3.9],
];

describe('a log', () => {
  for (const [what, text, lastMin, volts, amps, tempC] of SHAPES)
    it(`is recognised: ${what}`, () => {
      const log = logOf(text);
      expect(log.minutes[0]).to.equal(0);
      expect(log.minutes.at(-1)).to.be.closeTo(lastMin, 1e-4);
      expect(log.volts.at(-1)).to.be.closeTo(volts, 1e-9);
      expect(log.amps.at(-1)).to.be.closeTo(amps, 1e-9);
      if (tempC === undefined) expect(log.tempC).to.equal(undefined);
      else expect(log.tempC?.at(-1)).to.be.closeTo(tempC, 1e-9);
    });

  it('leaves out rows with a gap, and says how many', () => {
    const log = logOf('t (s),U (V),I (A)\n0,12.1,4\n60,,4\n120,12.3,4');
    expect(log.minutes).to.have.length(2);
    expect(log.skipped).to.equal(1);
  });

  for (const [what, text, sentence] of [
    [
      'no voltage',
      'time (s);I (A);x\n0;4;1\n60;4;1',
      'Say which column holds the voltage: no heading names it.',
    ],
    [
      'two voltages',
      'time (s);U1 (V);U2 (V);I (A)\n0;12;13;4\n60;12;13;4',
      'Say which column holds the voltage: “U1 (V)” or “U2 (V)” could.',
    ],
    [
      'a time without a unit',
      'time;U (V);I (A)\n0;12.1;4\n60;12.2;4',
      'Say in which unit “time” gives the time: neither heading nor numbers tell.',
    ],
    [
      'a current that may be milliamperes',
      't (s);U (V);I\n0;12.1;400\n60;12.2;390',
      'Say in which unit “I” gives the current',
    ],
    ['time runs back', 't (s);U (V);I (A)\n60;12.1;4\n0;12.2;4', 'Row 3: its time is before'],
    [
      'a dated clock runs back a day',
      'time;U (V);I (A)\n2026-03-10 12:00;12.1;4\n2026-03-09 12:00;12.2;4',
      'Row 3: its time is before',
    ],
    [
      'month 13',
      'time;U (V);I (A)\n13/13/2026 12:00;12.1;4\n14/13/2026 12:00;12.2;4',
      'Row 2: “13/13/2026 12:00” is no date and time of day.',
    ],
    [
      'a day no month has, further down',
      'time;U (V);I (A)\n2026-02-28 12:00;12.1;4\n2026-02-29 12:00;12.2;4\n',
      'Row 3: “2026-02-29 12:00” is no date and time of day.',
    ],
    ['no heading at all', '0;12.1;4\n60;12.2;4\n120;12.3;4', 'Say which column holds the time'],
    ['no numbers', 'a;b\nc;d\ne;f', 'no row of numbers'],
    ['one row', 't (s);U (V);I (A)\n60;12.1;4', 'a log needs two'],
  ] as const)
    it(`is asked about or refused in one sentence: ${what}`, () => {
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
