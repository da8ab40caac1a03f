import { Command } from 'commander';
import { registerCheck } from './check.ts';
import { registerDemo } from './demo.ts';
import { registerEval } from './eval.ts';
import { registerExport } from './export.ts';
import { registerImport } from './import.ts';
import { Refused } from './read-shot.ts';
import { registerValidate } from './validate.ts';

const HELP_CARE = `
The care of the data, in the folder .varrup or VARRUP_DATA:
  backup [file]   all of it into one file, also while Varrup runs
  restore <file>  a backup into a folder that has no data yet
  verify          look all of it through: exits 1 where something is wrong
  mend <shot>     a copy of a damaged shot as it was at its last edit that holds`;

/** `varrup`: the core from a shell or a pipeline. Each command is a file beside this one. */
const program = new Command('varrup')
  .description('Varrup from the shell: look into shots without a browser.')
  // These are for the tool around this program, which knows the database.
  .addHelpText('after', HELP_CARE);
registerEval(program);
registerValidate(program);
registerCheck(program);
registerDemo(program);
registerExport(program);
registerImport(program);

try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof Refused)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
