/** Opens a shop's file and dies at its n-th statement, as a machine does whose plug is pulled: FILE N. Where there are fewer, it says how many. */
import { Sequelize } from 'sequelize';
import { openDatabase } from '../src/store/database.ts';

const [file = '', after = '0'] = process.argv.slice(2);
const query = Reflect.get(Sequelize.prototype, 'query') as (...given: unknown[]) => unknown;
let statements = 0;
Reflect.set(Sequelize.prototype, 'query', function (this: Sequelize, ...given: unknown[]) {
  statements += 1;
  if (statements > Number(after)) process.kill(process.pid, 'SIGKILL');
  return Reflect.apply(query, this, given);
});
const database = await openDatabase(file);
process.stdout.write(String(statements));
await database.close();
