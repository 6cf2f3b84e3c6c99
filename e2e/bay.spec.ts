/** A bay with devices of its own, beside the step: checked, refused, run, lost, stopped, and gone on with by a person; and a probe that sends by itself. */
import type { JobAnswer, ProbeKey } from '@cork-ember/core/contract/answers.ts';
import type { BenchPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import type { Failing } from '@cork-ember/core/devices/simulated/failings.ts';
import { GENERIC_PUSH } from '@cork-ember/core/devices/genericProfiles.ts';
import { pick } from './keys.ts';
import { expect, test, type Shop } from './shop.ts';

/** Nothing a person waits for takes the bench longer, ms. */
const SOON = { timeout: 20_000 };

async function jobInBay(shop: Shop, wanted: number): Promise<string> {
  const { bays } = await shop.ask<BenchPicture>('/api/bench');
  return bays.find(({ bay }) => bay === wanted)?.job ?? '';
}

const supply = (shop: Shop, failing: Omit<Failing, 'id'>): Promise<unknown> =>
  shop.ask('/api/devices/supply-1/fail', failing);
const WELL = { fault: null, clips: 'on' } as const;

test('a charge is refused where the clips sit wrong, given, lost with its supply, and gone on with by a person', async ({
  page,
  shop,
}) => {
  const job = await jobInBay(shop, 1);
  const { events } = await shop.ask<JobAnswer>(`/api/jobs/${job}`);
  await shop.ask(`/api/jobs/${job}/events`, {
    expectedSeq: events.at(-1)?.seq,
    requestKey: '5ce77e00-0000-4000-8000-00000000ba01',
    by: 'Tarek',
    entry: { kind: 'chargePaused', payload: { step: 'charge#1', reason: 'stopped' } },
  });
  await page.goto(`${shop.url}/jobs/${job}`);
  const bay = page.getByRole('region', { name: /^Bay 1/ });
  const check = bay.getByRole('button', { name: /check them/ });
  const on = bay.getByRole('button', { name: /switch it on/ });

  await supply(shop, { ...WELL, clips: 'reversed' });
  await check.click();
  await expect(bay.getByRole('alert')).toContainText('the wrong way round', SOON);
  await expect(on).toHaveCount(0);

  await supply(shop, WELL);
  await check.click();
  await expect(bay.getByRole('note')).toContainText('Before it goes on', SOON);
  await on.click();
  await expect(bay).toHaveAccessibleName(/^Bay 1 charges it/, SOON);
  await expect(bay).toContainText(/1[23]\.\d\d V\s*1\.2\d A/, SOON);
  await expect(page.getByText(/^On at 1\.20 A/)).toBeVisible();

  await supply(shop, { ...WELL, fault: 'silent' });
  await expect(bay.getByRole('alert')).toContainText('does not answer', SOON);
  await expect(page.getByText('The charger is off. The lost time is added')).toBeVisible(SOON);
  await supply(shop, WELL);
  // Nobody switched it on: it stays off.
  await expect(on).toHaveCount(0);

  await check.click();
  await on.click(SOON);
  const stop = bay.getByRole('button', { name: /^Stop/ });
  await expect(stop).toBeVisible(SOON);
  await stop.click();
  await expect(bay.getByRole('alert')).toContainText('Stopped by', SOON);
  const { events: after } = await shop.ask<JobAnswer>(`/api/jobs/${job}`);
  expect(after.at(-1)?.kind).toBe('chargePaused');
});

test('a device is held against a better instrument, and shows what is from then on', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/setup?part=devices`);
  const card = page.getByRole('listitem').filter({ hasText: 'Meter of bay 1' });
  await card.getByText('never calibrated here').click();
  const volts = card.getByRole('group', { name: 'Volts' });
  const fill = async (label: string, figure: string): Promise<void> => volts.getByLabel(label).fill(figure);
  await fill('It shows, low', '10');
  await fill('It is, low', '11');
  await fill('It shows, high', '10.2');
  await fill('It is, high', '11.2');
  await expect(card.getByRole('alert')).toContainText('at least 1 apart');
  await fill('It shows, high', '15');
  await fill('It is, high', '16');
  await card.getByRole('button', { name: 'Calibrate with these' }).click();
  await page.getByLabel(/Why\?$/).fill('against the lead’s own');
  await page.getByRole('button', { name: 'Put in force for new jobs' }).click();
  await expect(page.getByText('In force for new jobs.')).toBeVisible();
  await expect(card).toContainText('calibrated 10 Mar 2026, due');
  await card.getByRole('button', { name: /^Talk to it/ }).click();
  await expect(card.getByRole('status')).toContainText(/1[34]\.\d\d V/);
});

test('a simulated device fails on demand, and says so to whoever comes later', async ({ page, shop }) => {
  await page.goto(`${shop.url}/setup?part=devices`);
  const card = page.getByRole('listitem').filter({ hasText: 'Supply of bay 1' });
  await card.getByText('To try: make it fail').click();
  await pick(page, 'What is wrong with it: Supply of bay 1', 'it gives no answer');
  await card.getByRole('button', { name: /^Talk to it/ }).click();
  await expect(card.getByRole('alert')).toContainText('does not answer', SOON);
  await page.reload();
  await expect(page.getByLabel('What is wrong with it: Supply of bay 1')).toContainText('it gives no answer');
});

test('a probe of one’s own gets a key, sends with it, and is seen on the bench and beside its step', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/setup?part=devices`);
  await page.getByLabel('Name', { exact: true }).fill('Probe of bay 3');
  await pick(page, 'How it is spoken to', GENERIC_PUSH.name);
  await expect(page.getByLabel('Address')).toHaveCount(0);
  await page.getByLabel('Bay, where it is wired to one').fill('3');
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByLabel(/Why\?$/).fill('soldered one');
  await page.getByRole('button', { name: 'Put in force for new jobs' }).click();
  const card = page.getByRole('listitem').filter({ hasText: 'Probe of bay 3' });
  const answered = page.waitForResponse(/\/key$/);
  await card.getByRole('button', { name: /^Make it a key/ }).click();
  const { key } = (await (await answered).json()) as ProbeKey;
  await expect(card).toContainText(`Authorization: Bearer ${key}`);

  const send = async (): Promise<unknown> => {
    const [, id = ''] = /devices\/([\w-]+)\/readings/.exec((await card.textContent()) ?? '') ?? [];
    const answer = await fetch(`${shop.url}/api/devices/${id}/readings`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${key}` },
      body: JSON.stringify({ volts: 12.64, tempC: 26.5 }),
    });
    return answer.json();
  };
  expect(await send()).toEqual({ kept: 1 });
  await card.getByRole('button', { name: /^What it sent last/ }).click();
  await expect(card.getByRole('status')).toContainText('12.64 V · 26.5 °C');

  const other = await page.context().newPage();
  await other.goto(shop.url);
  await other.getByRole('link', { name: /SK-/ }).first().waitFor();
  await send();
  await expect(other.getByText('12.64 V 27 °C')).toBeVisible(SOON);
  await other.goto(`${shop.url}/jobs/${await jobInBay(shop, 3)}`);
  await other.getByRole('heading', { level: 2 }).first().waitFor();
  await send();
  await expect(other.getByRole('region', { name: /^Bay 3/ })).toContainText(/12\.64 V\s*26\.5 °C/, SOON);
});
