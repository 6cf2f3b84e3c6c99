/**
 * A new version in the place of the one that runs: copied, tried on the copy, then begun; and back again by one command. Whatever goes wrong
 * on the way, the shop runs afterwards as it did before.
 */
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import Joi from 'joi';
import { copyInto, copyTo, restore } from './store/copies.ts';

/** A sentence for whoever keeps the machine. */
export class UpgradeError extends Error {}

/** A version of the program: its folder, and how it calls itself. */
export interface Program {
  readonly folder: string;
  readonly version: string;
}

/** What an upgrade does to the machine it runs on. */
export interface Machine {
  /** The service is stopped, its file closed. */
  stop(): Promise<void>;
  /** The service runs this program from now on. */
  begin(program: Program): Promise<void>;
  /** Waits until the service answers. @returns why it does not; undefined where it is well */
  trouble(): Promise<string | undefined>;
  /** Opens a file with a program, apart from the service. @returns why that does not work; undefined where it does */
  troubleWith(program: Program, file: string): Promise<string | undefined>;
}

/** What is written down of the last one: how to get back. */
export interface Upgraded {
  readonly from: Program;
  readonly to: Program;
  /** The file as it was, with everything that had been recorded. */
  readonly copy: string;
}

const programSchema = Joi.object({
  folder: Joi.string().required(),
  version: Joi.string().required(),
}).required();
const upgradedSchema = Joi.object({ from: programSchema, to: programSchema, copy: Joi.string().required() });

const noteOf = (file: string): string => join(dirname(file), 'upgrade.json');
const copiesOf = (file: string): string => join(dirname(file), 'copies');

/** Tries a program on a copy of the file that is thrown away again. */
async function triedOnCopy(machine: Machine, program: Program, file: string): Promise<string | undefined> {
  const folder = await mkdtemp(join(dirname(file), 'tried-'));
  try {
    const copy = join(folder, 'shop.sqlite');
    await copyTo(file, copy);
    return await machine.troubleWith(program, copy);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * Puts a new version in the place of another. The shop is closed only from the last copy until the new one answers.
 * @throws UpgradeError where the new version does not open the file, or is not well with it; the old one runs again then
 */
export async function upgrade(machine: Machine, file: string, from: Program, to: Program): Promise<Upgraded> {
  if (from.folder === to.folder)
    throw new UpgradeError('This is the version that runs: put the new one into a folder of its own');
  if (!existsSync(file)) throw new UpgradeError(`${file}: there is no shop to upgrade`);
  const refusal = await triedOnCopy(machine, to, file);
  if (refusal !== undefined)
    throw new UpgradeError(`${to.version} cannot open the shop, nothing was changed: ${refusal}`);
  await machine.stop();
  // Nothing can be recorded any more: what this copy holds is everything.
  const copy = await copyInto(file, copiesOf(file), 'before-upgrade');
  const upgraded: Upgraded = { from, to, copy };
  await writeFile(noteOf(file), `${JSON.stringify(upgraded, undefined, 2)}\n`);
  const trouble = await machine.begin(to).then(() => machine.trouble(), sentenceOf);
  if (trouble === undefined) return upgraded;
  await putBack(machine, file, upgraded);
  throw new UpgradeError(`${to.version} was not well, ${from.version} runs again: ${trouble}`);
}

const sentenceOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** What came of going back. */
export interface RolledBack extends Upgraded {
  /** Where the file as the newer version left it lies, if the older one could not read it; with what was recorded since. */
  readonly kept?: string;
}

async function putBack(machine: Machine, file: string, upgraded: Upgraded): Promise<RolledBack> {
  const { from, copy } = upgraded;
  await machine.stop();
  // Where nothing of the file's form has changed, what was recorded since stays where it is.
  const isReadable = (await triedOnCopy(machine, from, file)) === undefined;
  const kept = isReadable ? undefined : await restore(file, copy);
  await machine.begin(from);
  return { ...upgraded, ...(kept === undefined ? {} : { kept }) };
}

/**
 * The version of before again, with its file where the newer one has changed it.
 * @throws UpgradeError where no upgrade is written down, or the older version is not well either
 */
export async function rollBack(machine: Machine, file: string): Promise<RolledBack> {
  const text = await readFile(noteOf(file), 'utf8').catch(() => '');
  if (text === '') throw new UpgradeError('No upgrade is written down here: there is nothing to go back to');
  const upgraded = upgradedIn(text, noteOf(file));
  if (!existsSync(upgraded.from.folder))
    throw new UpgradeError(
      `${upgraded.from.folder} is not there any more: put ${upgraded.from.version} there`,
    );
  const back = await putBack(machine, file, upgraded);
  const trouble = await machine.trouble();
  if (trouble !== undefined)
    throw new UpgradeError(`${upgraded.from.version} is not well either: ${trouble}`);
  await rm(noteOf(file));
  return back;
}

function upgradedIn(text: string, note: string): Upgraded {
  try {
    const { error, value } = upgradedSchema.validate(JSON.parse(text));
    if (!error) return value as Upgraded;
  } catch {
    // Said below, with what can be done.
  }
  throw new UpgradeError(`${note} cannot be read: name the copy to go back to with “npm run restore”`);
}
