import { connect, migrate, openedByANewer } from '../database.ts';
import { Refused } from '../http/refusal.ts';
import { mendShot } from '../store/mending.ts';
import { wordsOf } from './told.ts';
import { verify } from './verify.ts';

/**
 * The care of the data, at the database that the tool which calls this has started: `migrate`, `verify`, `mend SHOT`, one after the other as they
 * are named. Ends with 0 where all is well, 1 where something is wrong, 2 where nothing could be looked at.
 */
const say = (line: string) => process.stdout.write(`${line}\n`);

process.exitCode = await run(process.argv.slice(2)).catch((error) => {
  process.stderr.write(`The database does not read: ${wordsOf(error)}\n`);
  return 2;
});

async function run(words: readonly string[]): Promise<number> {
  const database = await connect(process.env.VARRUP_DATABASE!, 2);
  try {
    if (await openedByANewer(database)) {
      process.stderr.write('The data are of a newer Varrup. Look them through with that one.\n');
      return 2;
    }
    if (words.includes('migrate')) await migrate(database);
    else if (await database.showMigrations()) {
      process.stderr.write('The data are of an earlier Varrup. Start it once with npm start, and try again.\n');
      return 2;
    }
    const mend = words.indexOf('mend');
    if (mend >= 0) return await mended(words[mend + 1]);
    return words.includes('verify') ? await verified() : 0;
  } finally {
    await database.destroy();
  }

  async function verified(): Promise<number> {
    const { shots, edits, problems } = await verify(database, say);
    say('');
    const count = `${shots} shots with ${edits} edits.`;
    if (problems.length === 0) say(`${count} All is well.`);
    else
      say(
        `${count} ${problems.length === 1 ? '1 thing is' : `${problems.length} things are`} wrong:\n${problems.join('\n')}`,
      );
    return problems.length === 0 ? 0 : 1;
  }

  async function mended(shot: string): Promise<number> {
    try {
      const id = await database.transaction((db) => mendShot(db, shot));
      const [{ name }]: { name: string }[] = await database.query('SELECT name FROM shots WHERE id = $1', [id]);
      say(`Made "${name}" (${id}) in the same production. The other shot stays as it is.`);
      return 0;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      process.stderr.write(`${error.message} varrup verify names the shots.\n`);
      return 1;
    }
  }
}
