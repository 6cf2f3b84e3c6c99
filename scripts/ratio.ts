/** How much of the code is tests, by lines that are not blank. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const files = execFileSync(
  'git',
  ['ls-files', '--cached', '--others', '--exclude-standard', '*.ts', '*.tsx', '*.mjs', '*.css'],
  { encoding: 'utf8' },
)
  .trim()
  .split('\n');
const linesOf = (file: string): number =>
  readFileSync(file, 'utf8')
    .split('\n')
    .filter((line) => line.trim() !== '').length;
const isTest = (file: string): boolean => /\.test\.tsx?$|^e2e\/|\/test\//.test(file);
const sum = (list: readonly string[]): number => list.reduce((total, file) => total + linesOf(file), 0);

const all = sum(files);
const tests = sum(files.filter(isTest));
console.log(`tests ${tests} of ${all} lines, ${((100 * tests) / all).toFixed(1)} %`);
