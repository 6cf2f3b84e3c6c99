import { expect, Sheet, test } from './shop.ts';

test('a charge shows the model’s time beside the rule of thumb, and the readings on its curve', async ({
  page,
  shop,
}) => {
  const sheet = await (await Sheet.open(shop)).toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
  await page.goto(`${shop.url}${sheet.path}`);
  const forecast = page.getByRole('region', { name: 'Forecast of this charge' });
  await expect(forecast).toContainText(/By the model \d\.\d h on charge, by the rule of thumb 4\.\d h/);
  await expect(forecast.locator('.recharts-line-curve')).toHaveCount(3);
  await expect(forecast).not.toContainText('the points are your readings');
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
  await shop.wait(60);
  await sheet.put('chargeRead', {
    step: 'charge#1',
    values: { voltageV: 14.3, currentA: 0.8, tempC: 25 },
    source: 'keypad',
  });
  await expect(forecast).toContainText('the points are your readings');
  await expect(forecast.locator('.recharts-scatter-symbol')).toHaveCount(3);
});

test('half the current takes the model longer', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.4, tempC: 24 }, source: 'keypad' });
  await page.goto(`${shop.url}${sheet.path}`);
  const forecast = page.getByRole('region', { name: 'Forecast of this charge' });
  const hours = async (): Promise<number> =>
    Number(/By the model (\d+\.\d) h/.exec((await forecast.textContent()) ?? '')?.[1]);
  await expect.poll(hours).toBeGreaterThan(3);
  const full = await hours();
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.45 });
  await expect.poll(hours).toBeGreaterThan(full + 2);
});
