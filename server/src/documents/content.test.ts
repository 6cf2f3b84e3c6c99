import { TestJob } from '@cork-ember/core/test/testJob.ts';
import { expect } from 'chai';
import sharp from 'sharp';
import { SKERRY } from '../demo/skerry.ts';
import { contentOf, type DocumentContent } from './content.ts';
import { writeDocument } from './document.ts';
import { ownersSheetOf } from './ownersSheet.ts';
import { warrantyRecordOf } from './warrantyRecord.ts';

/** Everything on the paper as one text. */
function textOf(sheet: TestJob, contentFrom: typeof contentOf = contentOf): string {
  const { sections, record, ...rest }: DocumentContent = contentFrom(sheet.job.state, SKERRY);
  const rows = [...sections, ...record].flatMap(({ title, rows: lines }) => [
    title,
    ...lines.map((line) => line.join(': ')),
  ]);
  return [rest.title, rest.lead, ...rows, ...rest.cautions, rest.signature].join('\n');
}

const certified = (): TestJob =>
  new TestJob().soak().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');

describe('the certificate', () => {
  it('says shop, battery, readings, charge with its range, reasons and who', () => {
    const text = textOf(certified());
    for (const part of [
      'Commissioning certificate',
      'SK-0001',
      'Lanternwick LW-A12/9, AGM, dry-charged, 12 V 9 Ah (10 h)',
      'own pack P-09, 492 mL at 1.32 kg/L',
      'After the soak: 12.7 V at 27 °C',
      'Charge 1: 0.90 A for',
      'Met: Rested at 12.84 V; the floor is 12.60 V.',
      'State of charge: about 93 % (86 to 100 %), estimated',
      'Certified by Ines, Skerry Battery Loft',
      'licensed recycler',
    ])
      expect(text).to.include(part);
  });

  it('lists every step that was done, and none that was left out', () => {
    const text = textOf(certified());
    expect(text).to.include('Press the pack on · Ines');
    expect(text).not.to.include('Weigh it dry');
    expect(text).not.to.match(/undefined|NaN/);
  });

  it('prints what was cut short, and why', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty');
    sheet
      .put('overridden', { step: 'pack-dwell#1', reason: 'bone dry, ferry leaves' })
      .affirm('pack-off')
      .wait(130)
      .affirm('strip');
    sheet
      .measure('ocv-soak', { ocvV: 12.7, tempC: 25 })
      .charge()
      .test(12.84)
      .decide('pass')
      .affirm('hand-over', 'certify');
    expect(textOf(sheet)).to.include('Leave the pack on · cut short: bone dry, ferry leaves');
  });

  it('prints the acid’s mass when it was weighed', () => {
    const sheet = new TestJob()
      .checkIn()
      .put('observed', { step: 'pack-code#1', code: 'P-09' })
      .measure('weigh-dry', { dryG: 2910 });
    sheet
      .affirm('foil-off', 'pack-on')
      .wait(2)
      .chambers('bubbles')
      .wait(12)
      .chambers('empty')
      .wait(30)
      .affirm('pack-off');
    sheet
      .measure('weigh-filled', { filledG: 3560 })
      .wait(130)
      .affirm('strip')
      .measure('ocv-soak', { ocvV: 12.7, tempC: 25 });
    sheet.charge().test(12.84).decide('pass').affirm('hand-over', 'certify');
    expect(textOf(sheet)).to.include('Acid by mass: 650 g');
  });

  it('names the house rules that are not the defaults', () => {
    const sheet = new TestJob('LW-A12/9', { soak: 'm60' })
      .soak()
      .charge()
      .test(12.84)
      .decide('pass')
      .affirm('hand-over', 'certify');
    expect(textOf(sheet)).to.include('Soak after the pack is off: 60 min');
    expect(textOf(certified())).not.to.include('House rules other than the defaults');
  });

  it('of a second charge tells of both, and judges by the last', () => {
    const sheet = new TestJob()
      .soak()
      .charge()
      .test(12.4)
      .decide('repeat')
      .charge()
      .test(12.82)
      .decide('pass')
      .affirm('hand-over', 'certify');
    const text = textOf(sheet);
    expect(text).to.include('Charge 1:').and.include('Charge 2:');
    expect(text).to.include('Rested at 12.82 V');
    expect(text).to.include('First charge (2) · Ines');
  });
});

describe('notes of jobs that did not pass', () => {
  for (const [what, sheet, title, reason] of [
    [
      'a broken foil',
      new TestJob()
        .affirm('identify')
        .measure('label', {})
        .affirm('safety')
        .put('denied', { step: 'inspect#1', denial: 'foil-broken' }),
      'Return note',
      'Foil broken: do not commission',
    ],
    [
      'a chamber that never empties',
      new TestJob()
        .pressOn()
        .wait(2)
        .chambers('bubbles')
        .put('denied', { step: 'empty#1', denial: 'never-empties' }),
      'Return note',
      'A chamber held its acid back',
    ],
    [
      'a failed test',
      new TestJob().soak().charge().test(12.4).decide('reject'),
      'Rejection note',
      'Rejected at the test of charge 1.',
    ],
    [
      'a change of mind',
      new TestJob().put('withdrawn', { reason: 'owner took it back' }),
      'Withdrawal note',
      'owner took it back',
    ],
  ] as const)
    it(`${what}: ${title}, with the reason and no word of a pass`, () => {
      const text = textOf(sheet);
      expect(text).to.include(title).and.include(reason).and.include('Do not fill, charge, sell or fit');
      expect(text).not.to.match(/Certified|Passed/);
    });

  it('are set on paper like the certificate', async () => {
    for (const sheet of [certified(), new TestJob().put('withdrawn', { reason: 'owner took it back' })]) {
      const { state } = sheet.job;
      const pdf = await writeDocument(contentOf(state, SKERRY), sheet.now, () =>
        Promise.reject(new Error('none')),
      );
      expect(pdf.subarray(0, 5).toString()).to.equal('%PDF-');
      expect(pdf.length).to.be.above(8_000);
    }
  });

  it('carry the pictures that were taken, the certificate does not', async () => {
    const photographed = (sheet: TestJob, step: string): TestJob =>
      sheet.put('photographed', { photo: 'p-1', step, caption: 'foil torn at cell 2' });
    const returned = photographed(new TestJob().affirm('identify'), 'identify#1');
    returned
      .measure('label', {})
      .affirm('safety')
      .put('denied', { step: 'inspect#1', denial: 'foil-broken' });
    const { photos, ...content } = contentOf(returned.job.state, SKERRY);
    expect(photos).to.have.length(1);
    expect(photos[0]?.caption).to.include('foil torn at cell 2 · Ines');
    const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#c8a47a' } })
      .jpeg()
      .toBuffer();
    const write = (shown: DocumentContent['photos']): Promise<Buffer> =>
      writeDocument({ ...content, photos: shown }, returned.now, () => Promise.resolve(picture));
    expect((await write(photos)).includes('/Subtype /Image')).to.equal(true);
    expect((await write([])).includes('/Subtype /Image')).to.equal(false);
    const passed = photographed(new TestJob().soak(), 'ocv-soak#1').charge().test(12.84).decide('pass');
    passed.affirm('hand-over', 'certify');
    expect(contentOf(passed.job.state, SKERRY).photos).to.have.length(0);
    expect(warrantyRecordOf(passed.job.state, SKERRY).photos).to.have.length(1);
  });
});

describe('the recovery certificate', () => {
  /** Charged by the shop’s shortest way and proven. */
  function recovered(reserveMin?: number): TestJob {
    const sheet = new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm').triage(11.6);
    sheet.route('prove').affirm('prove-off').wait(720).measure('prove-ocv', { ocvV: 12.8, tempC: 25 });
    if (reserveMin === undefined) sheet.put('skipped', { step: sheet.current.key });
    else sheet.measure('prove-capacity', { method: 'reserve', reserveMin });
    sheet
      .measure('prove-load', { method: 'tester', testerA: 500 })
      .wait(1440)
      .measure('hold-read', { ocvV: 12.78 });
    sheet.put('overridden', { step: sheet.current.key, reason: 'wanted on Friday' });
    sheet.put('skipped', { step: sheet.current.key }).decide('pass');
    return sheet.affirm('tell-customer', 'sign-recovered');
  }

  it('says used, as it came and after, what was measured and what it is good for', () => {
    const text = textOf(recovered(62));
    for (const part of [
      'Recovery certificate',
      'Used, recovered and tested.',
      'As it came: 11.60 V',
      'Rested after: 12.80 V',
      'Held: a day',
      'Grade: B',
      'Good for: a vehicle driven daily',
      'Gain, rested voltage: 11.60 to 12.80 V: +1.20 ± 0.01',
      'Gain, cranking: 500 A; not measured before, so no gain can be told',
      'Prove and grade it · Ines',
      'not sold as new',
    ])
      expect(text).to.include(part);
  });

  it('never reports cranking as capacity', () => {
    const text = textOf(recovered());
    expect(text).to.include('Capacity: not measured, and not assumed');
    expect(text).to.include('capacity was not measured, so B is the most');
  });
});

describe('the owner’s sheet', () => {
  it('says the charge, when to look, and how long it may stand with and without a draw', () => {
    const text = textOf(certified(), ownersSheetOf);
    for (const part of [
      'Charge: about 93 %; it rested at 12.84 V',
      'above 12.4 V',
      'Parked, disconnected: about',
      'licensed recycler',
      'Handed over by Ines',
    ])
      expect(text).to.include(part);
    const days = (label: string): number => Number(new RegExp(`${label}: about (\\d+) days`).exec(text)?.[1]);
    // 25 % of 9 Ah is 2.3 Ah; 25 mA take 0.6 Ah a day and it loses 0.009 Ah by itself.
    expect(days('Parked, 25 mA drawn')).to.be.within(3, 4);
    expect(days('Parked, disconnected')).to.be.within(200, 300);
    expect(days('Parked, 80 mA drawn')).to.be.below(days('Parked, 25 mA drawn'));
  });

  it('halves the line for a 6 V battery', () => {
    const sheet = new TestJob('LW-A6/4');
    expect(textOf(sheet, ownersSheetOf)).to.include('above 6.2 V');
  });
});

describe('the warranty record', () => {
  it('holds every look, every number with its origin, and every rule of the day', () => {
    const text = textOf(certified(), warrantyRecordOf);
    expect(text).to.include('Looks at charge 1');
    expect(text).to.match(/soak min: 120 min, \w+/);
    expect(text).to.include('Soak after the pack is off: 120 min');
    expect(text).to.include('Over-voltage equalising: off');
    expect(text).not.to.match(/undefined|NaN/);
  });
});
