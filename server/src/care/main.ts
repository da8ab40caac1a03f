import { connect } from '../database.ts';
import { verify } from './verify.ts';

/** `varrup verify`, on the database that the tool which calls this has started. */
const database = await connect(process.env.VARRUP_DATABASE!, 2);
try {
  if (await database.showMigrations()) {
    process.stderr.write('The data are of an earlier Varrup. Start it once with npm start, then verify.\n');
    process.exitCode = 1;
  } else {
    const { shots, edits, problems } = await verify(database, (line) => process.stdout.write(`${line}\n`));
    process.stdout.write(`\n${shots} shots with ${edits} edits. `);
    process.stdout.write(problems.length === 0 ? 'All is well.\n' : `Wrong:\n${problems.join('\n')}\n`);
    process.exitCode = problems.length === 0 ? 0 : 1;
  }
} finally {
  await database.destroy();
}
