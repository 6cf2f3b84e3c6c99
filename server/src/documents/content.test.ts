import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { localised } from '@cork-ember/core/units/localise.ts';
import type { Region } from '@cork-ember/core/units/region.ts';
import { TestJob } from '@cork-ember/core/test/testJob.ts';
import { expect } from 'chai';
import sharp from 'sharp';
import { SKERRY } from '../demo/skerry.ts';
import { contentOf, type DocumentContent } from './content.ts';
import { writeDocument } from './document.ts';
import { ownersSheetOf } from './ownersSheet.ts';
import { warrantyRecordOf } from './warrantyRecord.ts';

/** Everything on the paper as one text. */
function textOf(
  sheet: TestJob,
  contentFrom: (job: Job, shop: typeof SKERRY) => DocumentContent = contentOf,
  region: Region = SKERRY.region,
): string {
  const { sections, record, ...rest }: DocumentContent = contentFrom(sheet.job, SKERRY);
  const rows = [...sections, ...record].flatMap(({ title, rows: lines }) => [
    title,
    ...lines.map((line) => line.join(': ')),
  ]);
  const large = [
    rest.verdict?.word ?? '',
    rest.verdict?.use ?? '',
    ...rest.figures.map(({ label, value, note }) => `${label}: ${value} (${note})`),
    ...rest.beforeAfter.map(({ what, before, after, gain }) => `${what}: ${before} to ${after}, ${gain}`),
    ...rest.curves.map(({ title, caption }) => `${title}: ${caption}`),
  ];
  const words = [rest.title, rest.lead, ...large, ...rows, ...rest.cautions, rest.signature].join('\n');
  return localised(words, region);
}

const certified = (): TestJob =>
  new TestJob().soak().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');

const STAMP = { issue: 1, code: '7KQ2M-XB4TD', url: 'http://skerry.test/check/7KQ2M-XB4TD' };

describe('the certificate', () => {
  it('says shop, battery, readings, charge with its range, reasons and who', () => {
    const text = textOf(certified());
    for (const part of [
      'Commissioning certificate',
      'SK-0001',
      'Lanternwick LW-A12/9, AGM, dry-charged, 12 V 9 Ah (10 h)',
      'own pack P-09, 492 mL at 1.320 kg/L',
      'Filled, charged, rested and tested',
      'Passed',
      'Read voltage and warmth: Open-circuit voltage 12.70 V; Case temperature 27.0 °C · keypad',
      'First charge: 0.90 A for',
      'First charge: Proof of full: 0.05 A, 0.7 % of capacity, flat at 14.7 V over 120 min, 3 readings.',
      'Met: Rested at 12.84 V; the floor is 12.60 V.',
      'Charge, estimated: 97 % (92 to 100 %)',
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
    expect(text).to.include('First charge:').and.include('First charge (2):');
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
      expect(text).not.to.match(/Certified|Passed|Filled, charged/);
    });

  it('are set on paper like the certificate', async () => {
    for (const sheet of [certified(), new TestJob().put('withdrawn', { reason: 'owner took it back' })]) {
      const pdf = await writeDocument(contentOf(sheet.job, SKERRY), sheet.now, SKERRY.region, STAMP, () =>
        Promise.reject(new Error('none')),
      );
      expect(pdf.subarray(0, 5).toString()).to.equal('%PDF-');
      expect(pdf.length).to.be.above(8_000);
    }
  });

  it('carry the pictures that were taken, the tester’s printout on a certificate too', async () => {
    const photographed = (sheet: TestJob, step: string): TestJob =>
      sheet.put('photographed', { photo: 'p-1', step, caption: 'foil torn at cell 2' });
    const returned = photographed(new TestJob().affirm('identify'), 'identify#1');
    returned
      .measure('label', {})
      .affirm('safety')
      .put('denied', { step: 'inspect#1', denial: 'foil-broken' });
    const { photos, ...content } = contentOf(returned.job, SKERRY);
    expect(photos).to.have.length(1);
    expect(photos[0]?.caption).to.include('foil torn at cell 2 · Ines');
    const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#c8a47a' } })
      .jpeg()
      .toBuffer();
    const write = (shown: DocumentContent['photos']): Promise<Buffer> =>
      writeDocument({ ...content, photos: shown }, returned.now, SKERRY.region, STAMP, () =>
        Promise.resolve(picture),
      );
    expect((await write(photos)).includes('/Subtype /Image')).to.equal(true);
    expect((await write([])).includes('/Subtype /Image')).to.equal(false);
    const passed = photographed(new TestJob().soak(), 'ocv-soak#1').charge().test(12.84).decide('pass');
    passed.affirm('hand-over', 'certify');
    expect(contentOf(passed.job, SKERRY).photos).to.have.length(1);
    expect(warrantyRecordOf(passed.job, SKERRY).photos).to.have.length(1);
  });
});

/** Charged by the shop’s shortest way and proven. */
function recoveredFor(reserveMin?: number): TestJob {
  const sheet = new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm').triage(11.6);
  sheet.slowCharge().prove({
    ocvV: 12.8,
    tempC: 25,
    test: { method: 'tester', testerA: 500 },
    ...(reserveMin === undefined ? {} : { capacity: { method: 'reserve', reserveMin } }),
    dayV: 12.78,
  });
  sheet.decide('pass');
  return sheet.affirm('tell-customer', 'hand-over', 'sign-recovered');
}

describe('the recovery certificate', () => {
  it('says used, as it came and after, what was measured and what it is good for', () => {
    const text = textOf(recoveredFor(62));
    for (const part of [
      'Recovery certificate',
      'Grade B',
      'Used, recovered and tested. For a vehicle driven daily',
      'Capacity: 65 %',
      'Hold: held (for a day)',
      'Rested voltage: 11.60 V to 12.80 V, +1.20 ± 0.01 V',
      'Cranking: not measured charged and rested to 500 A, cannot be told',
      'Prove and grade it · Ines',
      'Met: It held: 20 mV in 24 h at 25 °C',
      'not sold as new',
    ])
      expect(text).to.include(part);
  });

  it('what the tester printed of charge and health stands there as its own words, and grades nothing', () => {
    const passed = new TestJob().soak().charge();
    passed
      .wait(6)
      .affirm('disconnect')
      .affirm('lid')
      .wait(240)
      .measure('test-ocv', { ocvV: 12.84, tempC: 21 });
    passed.measure('test-load', { method: 'tester', testerA: 610, printedCharge: 98, printedHealth: 41 });
    passed.decide('pass').affirm('hand-over', 'certify');
    const text = textOf(passed);
    expect(text).to.include('it printed a charge of 98 %; it printed a health of 41 %');
    expect(JSON.stringify(warrantyRecordOf(passed.job, SKERRY))).to.include(
      'State of health, as it prints it',
    );
  });

  it('never reports cranking as capacity', () => {
    const text = textOf(recoveredFor());
    expect(text).to.include('Capacity: not measured (of the rating)');
    expect(text).to.include('Capacity was not measured, so B is the most');
  });
});

describe('the owner’s sheet', () => {
  it('says the charge, when to look, and how long it may stand with and without a draw', () => {
    const text = textOf(certified(), ownersSheetOf);
    for (const part of [
      'Charge: about 97 % (92 to 100 %); it rested at 12.84 V',
      'At most: 1.8 A',
      'Never: a car charger',
      'a maintainer that holds 13.5 to 13.8 V',
      'cracks, a bulge',
      'above 12.60 V',
      'Parked, disconnected: about',
      'licensed recycler',
      'Handed over by Ines',
    ])
      expect(text).to.include(part);
    const days = (name: string): number => Number(new RegExp(`${name}: about (\\d+) days`).exec(text)?.[1]);
    // From 94 % to the 51 % at which an AGM rests at 12.4 V: 3.9 of 9 Ah; 25 mA take 0.6 Ah a day.
    expect(days('Parked, 25 mA drawn')).to.be.within(5, 7);
    expect(text).to.match(/Parked, disconnected: about \d+ months/);
    expect(days('Parked, 80 mA drawn')).to.be.below(days('Parked, 25 mA drawn'));
  });

  it('counts its months in the shop’s zone, over a change of the clocks too', () => {
    const sheet = certified();
    const endedAt = Date.parse('2026-02-28T23:30:00Z');
    const hours = { ...sheet.job.state.opened.hours, timeZone: 'Europe/Helsinki' };
    const state = { ...sheet.job.state, endedAt, opened: { ...sheet.job.state.opened, hours } };
    const { sections } = ownersSheetOf({ state }, SKERRY);
    // 1 March by the shop's clock: a month later is 1 April, not 28 March.
    expect(JSON.stringify(sections)).to.include('1 Apr 2026, and every month');
  });

  it('goes with a recovered battery as well, with its grade and its cautions', () => {
    const text = textOf(recoveredFor(62), ownersSheetOf);
    expect(text).to.include('Grade B').and.include('not sold as new').and.include('At most:');
  });

  it('halves the line for a 6 V battery', () => {
    const sheet = new TestJob('LW-A6/4');
    expect(textOf(sheet, ownersSheetOf)).to.include('above 6.30 V');
  });
});

describe('the warranty record', () => {
  it('holds every look, every number with its origin, and every rule of the day', () => {
    const text = textOf(certified(), warrantyRecordOf);
    expect(text).to.include('Looks at: First charge');
    expect(text).to.include('Soak: 2 h 00, handbook: Plates and mats keep taking up acid');
    expect(text).to.include('Charge voltage: 14.70 V, handbook');
    expect(text).to.include('Soak after the pack is off: 120 min');
    expect(text).to.include('Over-voltage equalising: off');
    expect(text).not.to.match(/undefined|NaN/);
  });

  it('holds refused packs, withdrawn and mended entries beside what stands', () => {
    const sheet = new TestJob()
      .checkIn()
      .put('observed', { step: 'pack-code#1', code: 'P-12' })
      .put('observed', { step: 'pack-code#1', code: 'P-09' })
      .put('noted', { text: 'lid scratched' });
    sheet.put('undone', { replaces: `#${sheet.job.log.length}` });
    sheet.put('withdrawn', { reason: 'owner took it back' });
    const text = textOf(sheet, warrantyRecordOf);
    expect(text).to.include('Match the pack’s code: P-12 · Ines');
    expect(text).to.match(/· #\d+: Note: lid scratched · Ines; taken back by Ines/);
    expect(text).to.include('Withdrawn: owner took it back');
  });

  it('of a recovery holds densities, capacity, tester and their sources, and claims no first charge', () => {
    const flooded = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded').triage(12.1);
    flooded.route('retire').measure('retire-why', { why: 'worn' }).affirm('retire-core', 'retired');
    const text = textOf(flooded, warrantyRecordOf);
    expect(text).to.include('Record of the recovery');
    expect(text).to.include('Cell 1 1.130 g/cm³').and.include('· keypad');
    expect(text).to.include('Too little capacity or cranking left.');
    expect(text).not.to.include('proof of the first charge');
    expect(textOf(recoveredFor(62), warrantyRecordOf)).to.include('Minutes at 25 A 62 min');
  });
});

describe('every paper', () => {
  it('writes numbers as the trade does, and no name of the code', () => {
    const sheets = [
      certified(),
      recoveredFor(62),
      recoveredFor(),
      new TestJob().put('withdrawn', { reason: 'owner took it back' }),
    ];
    for (const sheet of sheets)
      for (const paper of [contentOf, warrantyRecordOf, ownersSheetOf]) {
        const text = textOf(sheet, paper);
        expect(text).not.to.match(/\d\.\d{4,}|undefined|NaN|\b\d{4,} min\b|[a-z][A-Z]{1}[a-z]+ (min|V|A)\b/);
      }
  });

  it('numbers its pages and has letters for Ω and the names of Europe', async () => {
    const content = { ...contentOf(certified().job, SKERRY), signature: 'Łukasz Þór Šimůnek, 4.4 mΩ' };
    const pdf = await writeDocument(content, 0, SKERRY.region, STAMP, () =>
      Promise.reject(new Error('none')),
    );
    expect(/\/Count 2/.test(pdf.toString('latin1'))).to.equal(true);
  });
});
