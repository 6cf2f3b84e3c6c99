import { expect } from 'chai';
import { dateFromEntry, minutesFromEntry, minutesText } from './entryTime.ts';
import { DATE_FORMS, type DateForm } from './region.ts';

describe('a time of day that is typed', () => {
  const cases = [
    ['7:30', 450],
    ['0730', 450],
    ['7', 420],
    ['24:00', 1440],
    ['24:01', undefined],
    ['7:30 pm', 1170],
    ['12 am', 0],
    ['12:15pm', 735],
    ['13 pm', undefined],
    ['0 am', undefined],
    ['7:60', undefined],
    ['noon', undefined],
  ] as const;
  for (const [text, minutes] of cases)
    it(`“${text}” is ${minutes ?? 'none'}`, () => expect(minutesFromEntry(text)).to.equal(minutes));

  it('is read again as it was written, in either kind of day', () => {
    for (const clock of ['24 h', '12 h'] as const)
      for (let minutes = 0; minutes < 1440; minutes += 17)
        expect(minutesFromEntry(minutesText(minutes, { clock }))).to.equal(minutes);
  });
});

describe('a date that is typed', () => {
  it('is read in every form a shop may choose, and in ISO 8601’s beside it', () => {
    for (const [form, shown] of Object.entries(DATE_FORMS)) {
      expect(dateFromEntry(shown, form as DateForm), form).to.equal('2026-11-28');
      expect(dateFromEntry('2026-11-28', form as DateForm), form).to.equal('2026-11-28');
    }
  });

  it('is none where the calendar has no such day', () => {
    expect(dateFromEntry('31.02.2026', 'dd.MM.yyyy')).to.equal(undefined);
    expect(dateFromEntry('12/24/2026', 'dd/MM/yyyy')).to.equal(undefined);
    expect(dateFromEntry('', 'yyyy-MM-dd')).to.equal(undefined);
  });
});
