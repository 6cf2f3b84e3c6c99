import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { note, openTestShop } from '../test/testShop.ts';
import { OPEN, answerOf } from '../test/endedJob.ts';
import { openDatabase } from './store/database.ts';
import { rollBack, upgrade, UpgradeError, type Machine, type Program } from './upgrade.ts';

/** A machine that does what it is told and remembers it; programs that are not well say why. */
class PretendMachine implements Machine {
  readonly did: string[] = [];
  ill: Readonly<Record<string, string>> = {};
  unreadable: readonly string[] = [];
  unstartable = '';
  private running = '';

  stop(): Promise<void> {
    this.did.push('stop');
    return Promise.resolve();
  }

  begin({ version }: Program): Promise<void> {
    this.did.push(`begin ${version}`);
    if (this.unstartable === version) return Promise.reject(new Error('systemctl start did not work'));
    this.running = version;
    return Promise.resolve();
  }

  trouble(): Promise<string | undefined> {
    return Promise.resolve(this.ill[this.running]);
  }

  async troubleWith({ version }: Program, file: string): Promise<string | undefined> {
    await (await openDatabase(file)).close();
    this.did.push(`try ${version}`);
    return this.unreadable.includes(version) ? 'was made by a newer Cork Ember' : undefined;
  }
}

describe('a new version', () => {
  let folder: string;
  let file: string;
  let machine: PretendMachine;
  let from: Program;
  let to: Program;

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-'));
    file = join(folder, 'shop.sqlite');
    const shop = await openTestShop(file);
    await shop.close();
    [from, to] = ['0.2.0', '0.3.0'].map((version) => {
      const program = { folder: join(folder, version), version };
      mkdirSync(program.folder);
      return program;
    }) as [Program, Program];
    machine = new PretendMachine();
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  const refusal = (done: Promise<unknown>): Promise<string> =>
    done.then(
      () => '',
      (error: unknown) => (error instanceof UpgradeError ? error.message : `no sentence: ${String(error)}`),
    );
  const eventsIn = async (): Promise<number> => {
    const shop = await openTestShop(file);
    const { events } = await answerOf(shop, OPEN);
    await shop.close();
    return events.length;
  };
  const recordOne = async (): Promise<void> => {
    const shop = await openTestShop(file);
    const { events } = await answerOf(shop, OPEN);
    await shop.append(OPEN, events.length, note('after the upgrade')).expect(201);
    await shop.close();
  };

  it('is tried on a copy first, then takes the place of the old one, and the copy of before is kept', async () => {
    const { copy } = await upgrade(machine, file, from, to);
    expect(machine.did).to.deep.equal(['try 0.3.0', 'stop', 'begin 0.3.0']);
    expect(existsSync(copy)).to.equal(true);
    expect(readdirSync(folder).filter((name) => name.startsWith('tried-'))).to.deep.equal([]);
  });

  it('that cannot open the file is told so, and the shop was never closed', async () => {
    machine.unreadable = ['0.3.0'];
    expect(await refusal(upgrade(machine, file, from, to))).to.include('nothing was changed');
    expect(machine.did).to.deep.equal(['try 0.3.0']);
  });

  it('that is not well is gone again, and the old one runs as before', async () => {
    machine.ill = { '0.3.0': 'it answers 503' };
    const before = await eventsIn();
    expect(await refusal(upgrade(machine, file, from, to))).to.equal(
      '0.3.0 was not well, 0.2.0 runs again: it answers 503',
    );
    expect(machine.did.slice(-3)).to.deep.equal(['stop', 'try 0.2.0', 'begin 0.2.0']);
    expect(await eventsIn()).to.equal(before);
  });

  it('that cannot even be begun leaves no shop closed', async () => {
    machine.unstartable = '0.3.0';
    expect(await refusal(upgrade(machine, file, from, to))).to.include('0.2.0 runs again: systemctl start');
    expect(machine.did.at(-1)).to.equal('begin 0.2.0');
  });

  it('goes back without losing what was recorded since, where the old one can read it', async () => {
    const before = await eventsIn();
    await upgrade(machine, file, from, to);
    await recordOne();
    expect(await rollBack(machine, file)).to.not.have.property('kept');
    expect(await eventsIn()).to.equal(before + 1);
    expect(await refusal(rollBack(machine, file))).to.include('nothing to go back to');
  });

  it('goes back to the copy where it cannot, and what was recorded since is kept beside it', async () => {
    const before = await eventsIn();
    await upgrade(machine, file, from, to);
    await recordOne();
    machine.unreadable = ['0.2.0'];
    const { kept = '' } = await rollBack(machine, file);
    expect(await eventsIn()).to.equal(before);
    expect(existsSync(kept)).to.equal(true);
  });

  it('in the old one’s folder, of a shop that is not there, or with a note nobody can read is refused', async () => {
    expect(await refusal(upgrade(machine, file, from, from))).to.include('a folder of its own');
    expect(await refusal(upgrade(machine, join(folder, 'none.sqlite'), from, to))).to.include('no shop');
    writeFileSync(join(folder, 'upgrade.json'), '{"from":');
    expect(await refusal(rollBack(machine, file))).to.include('cannot be read');
  });
});
