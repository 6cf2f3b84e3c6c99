import { expect } from 'chai';
import { LOCKED_FROM, passphraseTrouble, pinTrouble, waitAfter } from './pins.ts';

describe('a PIN', () => {
  for (const pin of ['4190', '73529', '28064017'])
    it(`${pin} will do`, () => {
      expect(pinTrouble(pin)).to.equal(undefined);
    });

  for (const pin of ['', '123', '123456789', '12a4', ' 419', '٣٤٥٦'])
    it(`“${pin}” is none`, () => {
      expect(pinTrouble(pin)).to.include('4 to 8 digits');
    });

  for (const pin of ['0000', '1234', '8642', '1357', '1212', '1987', '2024', '77777'])
    it(`${pin} is tried first`, () => {
      expect(pinTrouble(pin)).to.include('not tried first');
    });

  it('is worth trying ever less often, and in the end not at all', () => {
    const waits = Array.from({ length: LOCKED_FROM }, (_, wrong) => waitAfter(wrong));
    expect(waits).to.deep.equal([0, 0, 0, 5, 10, 20, 40, 80, 160, 320]);
  });
});

describe('a passphrase', () => {
  it('is long, and no one letter', () => {
    expect(passphraseTrouble('kelp over cold slate', 'Maeve')).to.equal(undefined);
    expect(passphraseTrouble('short words', 'Maeve')).to.include('12 to 128');
    expect(passphraseTrouble('a'.repeat(129), 'Maeve')).to.include('12 to 128');
    expect(passphraseTrouble('aaaaaaaaaaaaaaaa', 'Maeve')).to.include('not tried first');
    expect(passphraseTrouble('Bartholomew the third', 'bartholomew the third')).to.include('not tried first');
  });
});
