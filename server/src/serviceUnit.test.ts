import { expect } from 'chai';
import { settingsOf, unitOf, workingDirectoryIn } from './serviceUnit.ts';

const UNIT = unitOf({
  program: '/opt/cork ember/50% done',
  data: '/var/lib/cork-ember',
  node: '/usr/bin/node',
  user: 'ember',
  settings: '/etc/cork-ember.env',
});

describe('the shop as a service', () => {
  it('is begun with the machine and begun again whenever it ends', () => {
    expect(UNIT).to.include('WantedBy=multi-user.target').and.to.include('Restart=always');
    // Falling over often is no reason to stay away from a bench that charges.
    expect(UNIT).to.include('StartLimitIntervalSec=0');
  });

  it('finds its program under any name of a folder', () => {
    expect(UNIT).to.include('ExecStart="/usr/bin/node" "/opt/cork ember/50%% done/server/dist/main.js"');
    expect(UNIT).to.include('WorkingDirectory=/opt/cork ember/50%% done');
    expect(workingDirectoryIn(UNIT)).to.equal('/opt/cork ember/50% done');
    expect(workingDirectoryIn('[Unit]')).to.equal(undefined);
  });

  it('writes nowhere but to the shop’s own folder, which its settings name', () => {
    expect(UNIT).to.include('ProtectSystem=strict').and.to.include('ReadWritePaths="/var/lib/cork-ember"');
    expect(settingsOf('/var/lib/cork-ember')).to.include('CORK_EMBER_FILE=/var/lib/cork-ember/shop.sqlite');
  });

  it('has each setting on a line of its own, none twice', () => {
    const names = UNIT.split('\n').flatMap((line) => /^(\w+)=/.exec(line)?.[1] ?? []);
    expect(new Set(names).size).to.equal(names.length);
  });
});
