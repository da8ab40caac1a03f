/** A failure whose message is all the user needs; shown without a stack. */
export class Stop extends Error {}

export const say = (line) => process.stdout.write(`${line}\n`);

/** Runs a tool's main function; a `Stop` ends it with its sentence, anything else with its stack. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    process.stderr.write(`${error instanceof Stop ? error.message : error.stack}\n`);
    process.exit(1);
  }
}
