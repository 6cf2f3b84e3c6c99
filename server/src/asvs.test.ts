/** What docs/asvs.md says it is shown by is there, and no row says nothing. */
import { existsSync, readFileSync } from 'node:fs';
import { expect } from 'chai';

const TEXT = readFileSync('docs/asvs.md', 'utf8');
const ROWS = TEXT.split('\n').filter((line) => /^\| \d+\.\d+\.\d+/.test(line));

describe('the standard, row by row', () => {
  it('is gone through in every chapter a shop’s server is asked about', () => {
    const chapters = new Set(ROWS.map((row) => /^\| (\d+)\./.exec(row)?.[1]));
    expect([...chapters]).to.deep.equal(['2', '3', '4', '5', '6', '7', '8', '9', '12', '13', '14']);
    expect(ROWS.length).to.be.at.least(150);
  });

  it('says of each row that it is met, not asked here, or a deviation', () => {
    for (const row of ROWS) expect(row.split('|')[3], row).to.match(/met|n\/a|deviation|as \d/i);
  });

  it('names tests and papers that are there', () => {
    const named = [...TEXT.matchAll(/`([\w/.]+\.(?:test|spec|md))`/g)].map(([, name = '']) => name);
    expect(named.length).to.be.at.least(40);
    for (const name of new Set(named)) {
      const places = [`server/src/${name}.ts`, `e2e/${name}.ts`, `${name}.ts`, name];
      expect(
        places.some((place) => existsSync(place)),
        name,
      ).to.equal(true);
    }
  });
});
