import { sentenceOf } from './trouble.mjs';

/** A failure whose message is all the user needs; shown without a stack. */
export class Stop extends Error {}

export const say = (line) => process.stdout.write(`${line}\n`);

/** Runs a tool's main function; a `Stop` or an error of the file system ends it with a sentence, anything else with its stack. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    process.stderr.write(`${error instanceof Stop ? error.message : (sentenceOf(error) ?? error.stack)}\n`);
    process.exit(1);
  }
}
