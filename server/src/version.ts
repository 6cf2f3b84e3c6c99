/** The program's own version: shown in Setup, written into papers and the description of the API. */
import program from '../../package.json' with { type: 'json' };

export const VERSION: string = program.version;
