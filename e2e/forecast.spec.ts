import { expect, Sheet, test } from './shop.ts';

test('a charge shows its time in one number, and the readings on its curve', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
  await page.goto(`${shop.url}${sheet.path}`);
  const forecast = page.getByRole('region', { name: 'Forecast of this charge' });
  await expect(forecast).toContainText(/At 0\.90 A in all \d h \d\d on charge/);
  const total = /in all (\d h \d\d)/.exec((await forecast.textContent()) ?? '')?.[1] ?? 'no time';
  // The same wherever it stands on this screen, and no other total beside it.
  await expect(page.getByText(`0.90 A for about ${total}`)).toBeVisible();
  await expect(page.getByText(`In all ${total} on charge, by the model`)).toBeVisible();
  await expect(page.getByText('rule of thumb')).toHaveCount(0);
  await expect(forecast.getByRole('figure')).toHaveCount(3);
  await expect(forecast).not.toContainText('the points are your readings');
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
  await shop.wait(60);
  await sheet.put('chargeRead', {
    step: 'charge#1',
    values: { voltageV: 14.3, currentA: 0.8, tempC: 25 },
    source: 'keypad',
  });
  await expect(forecast).toContainText('the points are your readings');
});

test('half the current takes the model longer', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.4, tempC: 24 }, source: 'keypad' });
  await page.goto(`${shop.url}${sheet.path}`);
  const forecast = page.getByRole('region', { name: 'Forecast of this charge' });
  const hours = async (): Promise<number> => {
    const [, whole, minutes] = /in all (\d+) h (\d\d)/.exec((await forecast.textContent()) ?? '') ?? [];
    return Number(whole) + Number(minutes) / 60;
  };
  await expect.poll(hours).toBeGreaterThan(3);
  const full = await hours();
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.45 });
  await expect.poll(hours).toBeGreaterThan(full + 2);
});
