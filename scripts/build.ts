import { buildAll } from './building.ts';

await buildAll();
