import { Command } from 'commander';
import { registerCheck } from './check.ts';
import { registerDemo } from './demo.ts';
import { registerEval } from './eval.ts';
import { Refused } from './read-shot.ts';
import { registerValidate } from './validate.ts';

/** `varrup`: the core from a shell or a pipeline. Each command is a file beside this one. */
const program = new Command('varrup').description('Varrup from the shell: look into shots without a browser.');
registerEval(program);
registerValidate(program);
registerCheck(program);
registerDemo(program);

try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof Refused)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
