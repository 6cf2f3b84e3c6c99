import { expect } from 'chai';
import { EVENT_VERSION, upcastEvent, upcastExport } from './upcast.ts';

const type = { id: 'X', kind: 'agm-activated', nominalV: 12, cells: 6, label: {}, sheet: {} };
const opened = { job: 'j', seq: 1, kind: 'opened', payload: { bay: 1, type } };
const noted = { job: 'j', seq: 2, key: 'own', kind: 'noted', payload: { text: 'x' } };
const undone = { job: 'j', seq: 3, kind: 'undone', payload: { replaces: 2 } };

describe('entries of before', () => {
  it('get the type’s facts, a key and names for what they replace; nothing else is touched', () => {
    const first = upcastEvent(opened) as { key: string; payload: { bay: number; type: object } };
    expect(first.key).to.equal('#1');
    expect(first.payload.bay).to.equal(1);
    expect(first.payload.type).to.include({ construction: 'agm', delivery: 'factory-activated' });
    expect(upcastEvent(undone)).to.deep.equal({ ...undone, key: '#3', payload: { replaces: '#2' } });
  });

  it('of today come back as they are, and so does what is no entry', () => {
    expect(upcastEvent(noted)).to.equal(noted);
    expect(upcastEvent(undone, EVENT_VERSION)).to.equal(undone);
    for (const other of [undefined, null, 7, 'x', []]) expect(upcastEvent(other)).to.equal(other);
  });

  it('in a file are upcast one by one', () => {
    const file = upcastExport({ version: 1, events: [opened, noted, undone] }) as {
      events: readonly object[];
    };
    expect(file.events[1]).to.equal(noted);
    expect(file.events[2]).to.deep.include({ key: '#3' });
    expect(upcastExport('no file')).to.equal('no file');
  });
});
