import { expect } from 'chai';
import { ScanCatcher, tagOf } from './scanner.ts';

function feed(text: string, everyMs: number, startMs = 1000): string | undefined {
  const catcher = new ScanCatcher();
  let found: string | undefined;
  [...text, 'Enter'].forEach((key, index) => {
    found = catcher.feed(key, startMs + index * everyMs) ?? found;
  });
  return found;
}

describe('a keyboard-wedge scanner', () => {
  it('is told from a person by its speed', () => {
    expect(feed('SK-0147', 8)).to.equal('SK-0147');
    expect(feed('SK-0147', 120)).to.equal(undefined);
  });

  it('wants more than a stray letter, and forgets what was typed before', () => {
    expect(feed('S', 5)).to.equal(undefined);
    const catcher = new ScanCatcher();
    catcher.feed('x', 0);
    [...'SK-0147'].forEach((key, index) => catcher.feed(key, 500 + index * 5));
    expect(catcher.feed('Enter', 540)).to.equal('SK-0147');
    expect(catcher.feed('Enter', 545)).to.equal(undefined);
  });

  it('reads shift and other keys without taking them for letters', () => {
    const catcher = new ScanCatcher();
    ['Shift', 'S', 'Shift', 'K', '-', '1'].forEach((key, index) => catcher.feed(key, index * 4));
    expect(catcher.feed('Enter', 28)).to.equal('SK-1');
  });

  it('says where a scan may have begun, for a field to be put back as it was', () => {
    const catcher = new ScanCatcher();
    const begins = ['1', '2', 'S', 'K', '-', '1'].map((key, index) => {
      catcher.feed(key, index < 3 ? index * 200 : 400 + (index - 2) * 5);
      return catcher.mayBegin();
    });
    expect(begins).to.deep.equal([true, true, true, false, false, false]);
  });

  it('finds the tag at the end of an address', () => {
    expect(tagOf('https://shop.example/batteries/sk-0147')).to.equal('SK-0147');
    expect(tagOf(' sk-0147 ')).to.equal('SK-0147');
  });
});
