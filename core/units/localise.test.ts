import { expect } from 'chai';
import { localised, verbatim } from './localise.ts';
import { entryText, fromEntry, PLAIN_REGION, plainEntryText, wayOf, type Region } from './region.ts';

const US: Region = {
  temperature: '°F',
  volume: 'fl oz',
  mass: 'lb',
  decimalMark: '.',
  clock: '12 h',
  date: 'MMM d, yyyy',
  money: { sign: '$', decimals: 2, isAfter: false },
};
/** Nobody's: everything otherwise at once. */
const ODD: Region = {
  ...US,
  decimalMark: ',',
  date: 'dd.MM.yyyy',
  money: { sign: 'kr', decimals: 0, isAfter: true },
};

const CASES: readonly (readonly [text: string, us: string, odd: string])[] = [
  ['Off above 45 °C.', 'Off above 113 °F.', 'Off above 113 °F.'],
  ['20–25 °C', '68–77 °F', '68–77 °F'],
  ['−10 °C', '14 °F', '14 °F'],
  ['-17.8 °C', '0.0 °F', '0,0 °F'],
  [
    'pause at 45 or 50 °C all the same',
    'pause at 113 or 122 °F all the same',
    'pause at 113 or 122 °F all the same',
  ],
  ['held between 0 and 45 °C', 'held between 32 and 113 °F', 'held between 32 and 113 °F'],
  ['Allowed: −20 to 90 °C.', 'Allowed: −4 to 194 °F.', 'Allowed: −4 to 194 °F.'],
  ['9.6 V at 21 °C to 8.5 V at −18 °C', '9.6 V at 70 °F to 8.5 V at 0 °F', '9,6 V at 70 °F to 8,5 V at 0 °F'],
  ['12 K warmer within 5 min', '22 °F warmer within 5 min', '22 °F warmer within 5 min'],
  ['cells 1: 24, 2: 25.5, 3: 31 °C', 'cells 1: 75, 2: 77.9, 3: 88 °F', 'cells 1: 75, 2: 77,9, 3: 88 °F'],
  ['400 mL of 1.310', '13.5 fl oz of 1.310', '13,5 fl oz of 1,310'],
  [
    '0.456 L of gas, 27.5 g/L, 1.265 kg/L',
    '0.4818 qt of gas, 27.5 g/L, 1.265 kg/L',
    '0,4818 qt of gas, 27,5 g/L, 1,265 kg/L',
  ],
  ['17.5 kg, 506 g of acid', '38.6 lb, 17.8 oz of acid', '38,6 lb, 17,8 oz of acid'],
  ['°C', '°F', '°F'],
  ['Temperature, °C, by hours', 'Temperature, °F, by hours', 'Temperature, °F, by hours'],
  [
    'last look 10:40: 12 min ago',
    'last look 10:40\u00a0am: 12 min ago',
    'last look 10:40\u00a0am: 12 min ago',
  ],
  ['Temperature (°C)', 'Temperature (°F)', 'Temperature (°F)'],
  ['ready at 14:06', 'ready at 2:06\u00a0pm', 'ready at 2:06\u00a0pm'],
  [
    '08:00–18:00, lunch 12:30–13:00',
    '8:00\u00a0am–6:00\u00a0pm, lunch 12:30\u00a0pm–1:00\u00a0pm',
    '8:00\u00a0am–6:00\u00a0pm, lunch 12:30\u00a0pm–1:00\u00a0pm',
  ],
  ['00:15', '12:15\u00a0am', '12:15\u00a0am'],
  ['Wed 11 Mar 17:00', 'Wed Mar 11 5:00\u00a0pm', 'Wed 11.\u206003. 5:00\u00a0pm'],
  ['10 Mar 2026', 'Mar 10, 2026', '10.03.2026'],
  ['Closed on 2026-12-24', 'Closed on Dec 24, 2026', 'Closed on 24.12.2026'],
  ['behind by −¤\u00a04.20', 'behind by −$\u00a04.20', 'behind by −4\u00a0kr'],
  ['a price in ¤', 'a price in $', 'a price in kr'],
  [
    '12.70 V, 0.80 A, 1 part to 3, 2 h 05',
    '12.70 V, 0.80 A, 1 part to 3, 2 h 05',
    '12,70 V, 0,80 A, 1 part to 3, 2 h 05',
  ],
];

/** What no region may touch. */
const SAME = [
  'SK-0412',
  'http://192.168.1.4:4180',
  'version 1.2.3',
  'bay 3, 25 A to 10 h',
  'cell 2: 2 h',
  `serial ${verbatim('24.118 45 °C')}`.replace(/[\u2068\u2069]/g, ''),
];

describe('a region', () => {
  for (const [text, us, odd] of CASES)
    it(`writes “${text}”`, () => {
      expect(localised(text, US)).to.equal(us);
      expect(localised(text, ODD)).to.equal(odd);
    });

  it('leaves alone what it has written, when it meets it again', () => {
    for (const region of [US, ODD, PLAIN_REGION])
      for (const [text] of CASES) {
        const once = localised(text, region);
        expect(localised(once, region), text).to.equal(once);
      }
  });

  it('touches no identifier, no address and nobody’s own words', () => {
    for (const text of SAME.slice(0, -1)) expect(localised(text, ODD)).to.equal(text);
    expect(localised(`serial ${verbatim('24.118 45 °C')}`, ODD)).to.equal(SAME.at(-1));
    expect(localised('“stood at 12.6 since 08:00” is what he said', ODD)).to.equal(
      '“stood at 12.6 since 08:00” is what he said',
    );
  });

  it('is in SI units, points and 24 hours where nothing was chosen', () => {
    for (const [text] of CASES.filter(([one]) => !one.includes('¤')))
      expect(localised(text, PLAIN_REGION)).to.equal(text);
  });
});

describe('an entry in a region', () => {
  it('comes back as what it was', () => {
    for (const region of [US, ODD, PLAIN_REGION])
      for (const unit of ['°C', 'K', 'mL', 'L', 'g', 'kg', 'V'])
        for (const value of [-20, 0, 0.5, 22, 71.6, 1310])
          expect(fromEntry(plainEntryText(value, unit, region), unit, region)).to.be.closeTo(value, 3e-5);
  });

  it('is read in the region’s unit, with either decimal mark', () => {
    expect(fromEntry('71.6', '°C', US)).to.equal(22);
    expect(fromEntry(' 71,6 ', '°C', ODD)).to.equal(22);
    expect(fromEntry('−4', '°C', US)).to.equal(-20);
    expect(fromEntry('13.5', 'mL', US)).to.be.closeTo(399.2, 0.05);
    expect(fromEntry('12,6', 'V', US)).to.equal(12.6);
    expect(fromEntry('', 'V', US)).to.satisfy(Number.isNaN);
    expect(fromEntry('1.2.3', 'V', US)).to.satisfy(Number.isNaN);
  });

  it('is written as it would be typed', () => {
    expect(entryText(22, '°C', 1, ODD)).to.equal('71,6');
    expect(entryText(12.6, 'V', 2, ODD)).to.equal('12,60');
    expect(entryText(400, 'mL', 0, US)).to.equal('13.5');
  });

  it('has the published factors', () => {
    // NIST SP 811, B.8: 1 fl oz = 29.57353 mL, 1 lb = 0.4535924 kg, 1 oz = 28.34952 g, 1 qt = 0.9463529 L.
    expect(wayOf('mL', US).from(1)).to.be.closeTo(29.57353, 5e-6);
    expect(wayOf('kg', US).from(1)).to.be.closeTo(0.4535924, 5e-8);
    expect(wayOf('g', US).from(1)).to.be.closeTo(28.34952, 5e-6);
    expect(wayOf('L', US).from(1)).to.be.closeTo(0.9463529, 6e-8);
    expect(wayOf('K', US).to(5)).to.equal(9);
  });
});
