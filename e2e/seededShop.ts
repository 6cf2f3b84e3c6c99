/** Seeds the demo shop once, for every test to begin with a copy of it. */
import { rmSync } from 'node:fs';
import { SEEDED, Shop } from './shop.ts';

export default async function seededShop(): Promise<() => void> {
  const shop = new Shop();
  await shop.start();
  await shop.kill();
  process.env[SEEDED] = shop.folder;
  return () => rmSync(shop.folder, { recursive: true, force: true });
}
