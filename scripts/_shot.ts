import { chromium } from '@playwright/test';
import { Shop, sitDown } from '/work/main/e2e/shop.ts';
const shop = new Shop(); await shop.start();
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
for (const a of process.argv.slice(2)) {
  const [name, path, theme = 'day', w = '1280', h = '800', act = ''] = a.split('|');
  const page = await browser.newPage({ viewport: { width: Number(w), height: Number(h) }, locale: 'en-GB', timezoneId: 'Etc/UTC' });
  page.on('console', (m) => { if (m.type() === 'error') console.log(name, m.text()); }); page.on('pageerror', (e) => console.log(name, e.message));
  await sitDown(page, 'Ines', theme); await page.goto(shop.url + path); await page.waitForTimeout(700);
  for (const step of act.split(';').filter(Boolean)) { const [kind, ...rest] = step.split('='); const arg = rest.join('='); if (kind === 'click') await page.getByRole('button', { name: arg }).first().click(); if (kind === 'radio') await page.getByRole('radio', { name: arg }).first().check(); if (kind==='fill'){const [l,v]=arg.split('~'); await page.getByLabel(l!).first().fill(v!);} if (kind==='select'){const [l,v]=arg.split('~'); await page.getByLabel(l!).first().selectOption(v!);} if (kind==='scroll') await page.mouse.wheel(0, Number(arg)); await page.waitForTimeout(250); }
  await page.waitForTimeout(500); await page.screenshot({ path: `/tmp/shots/${name}.png` }); await page.close();
}
await browser.close(); await shop.close();
