/** Devices as they are set up: spoken to, tried whether they switch off, added by their address. */
import { GENERIC_SUPPLY } from '@cork-ember/core/devices/genericProfiles.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { pick } from './keys.ts';
import { expect, test } from './shop.ts';

const IN_FORCE = 'Put in force for new jobs';

test('a device says who it is and what it shows, and is tried whether it switches off', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/setup?part=devices`);
  const supply = page.getByRole('listitem').filter({ hasText: 'Supply of bay 1' });
  await supply.getByRole('button', { name: /^Talk to it/ }).click();
  await expect(supply.getByRole('status')).toContainText('It says it is “EMBER SIMULATED,SUPPLY');
  await expect(supply.getByRole('status')).toContainText('off');
  await supply.getByRole('button', { name: /^Test its off/ }).click();
  await expect(supply.getByRole('status')).toContainText('It was told to be off, and is.');
  const meter = page.getByRole('listitem').filter({ hasText: 'Meter of bay 1' });
  await meter.getByRole('button', { name: /^Talk to it/ }).click();
  await expect(meter.getByRole('status')).toContainText(/1[12]\.\d\d V · 2\d\.\d °C/);
  await expect(meter.getByRole('button', { name: /^Test its off/ })).toHaveCount(0);
});

test('one is added by its address with a reason; what is no address of the shop’s is refused, and stays typed', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/setup?part=devices`);
  const add = async (address: string): Promise<void> => {
    await page.getByLabel('Name', { exact: true }).fill('Old supply');
    await pick(page, 'How it is spoken to', GENERIC_SUPPLY.name);
    await page.getByLabel('Address').fill(address);
    await page.getByRole('button', { name: 'Add it' }).click();
  };
  await add('8.8.8.8');
  const old = page.getByRole('listitem').filter({ hasText: 'Old supply' });
  await expect(old.getByRole('button', { name: /^Talk to it/ })).toBeDisabled();
  await page.getByLabel(/Why\?$/).fill('it lay in the cupboard');
  await page.getByRole('button', { name: IN_FORCE }).click();
  await expect(page.getByRole('alert')).toContainText('8.8.8.8 is no address of a network of the shop’s own');
  await expect(page.getByLabel(/Why\?/)).toHaveValue('it lay in the cupboard');
  await old.getByRole('button', { name: 'Remove Old supply' }).click();
  await add('127.0.0.1');
  await page.getByLabel(/Why\?/).fill('it lay in the cupboard');
  await page.getByRole('button', { name: IN_FORCE }).click();
  await expect(page.getByText('In force for new jobs.')).toBeVisible();
  await old.getByRole('button', { name: /^Talk to it/ }).click();
  await expect(old.getByRole('alert')).toContainText('Old supply: nothing listens there.');
  await page.getByRole('tab', { name: 'Record' }).click();
  await expect(page.getByText('Device Old supply added')).toBeVisible();
});

test('a profile of one’s own comes from a file', async ({ page, shop }) => {
  await page.goto(`${shop.url}/setup?part=devices`);
  const file = (content: string) => ({
    name: 'profile.json',
    mimeType: 'application/json',
    buffer: Buffer.from(content),
  });
  await page.getByLabel('Profile of a device').setInputFiles(file('no json'));
  await expect(page.getByText('profile.json is no JSON')).toBeVisible();
  const own = { ...GENERIC_SUPPLY, id: 'bench-supply', name: 'The bench’s own' };
  await page.getByLabel('Profile of a device').setInputFiles(file(JSON.stringify(own)));
  await page.getByLabel(/Why\?$/).fill('it speaks otherwise');
  await page.getByRole('button', { name: IN_FORCE }).click();
  await expect(page.getByText('In force for new jobs.')).toBeVisible();
  const { profiles } = await shop.ask<Shop>('/api/shop');
  expect(profiles?.map(({ id }) => id)).toEqual(['bench-supply']);
});
