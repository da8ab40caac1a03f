import type { DataSource } from 'typeorm';
import { verifyHouse } from './house.ts';
import { verifyLog } from './log.ts';
import { verifyMedia } from './media.ts';
import { whatCanBeHad } from './remedy.ts';
import { wordsOf } from './told.ts';

/** What was found in a database: how much there is, and each thing that is wrong, as a sentence. */
export interface Found {
  readonly shots: number;
  readonly edits: number;
  readonly problems: readonly string[];
}

interface Row {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
}

/**
 * Looks a whole database through: every line of every log, every snapshot, every shot as it is now, sounds, pictures and footage, the library
 * and the names are as they were put in. What is wrong never ends it: it is named, with what can be had back, and the rest is looked at.
 */
export async function verify(database: DataSource, say: (line: string) => void = () => {}): Promise<Found> {
  const problems: string[] = [];
  const rows = await database.query<Row[]>('SELECT id, name, revision FROM shots ORDER BY name, id').catch((error) => {
    problems.push(`the list of shots does not read: ${wordsOf(error)}`);
    return [] as Row[];
  });
  let edits = 0;
  for (const row of rows) {
    const own: string[] = [];
    try {
      edits += await verifyLog(database, row.id, (problem) => own.push(problem));
    } catch (error) {
      own.push(`cannot be looked through: ${wordsOf(error)}`);
    }
    if (own.length > 0) own.push(await whatCanBeHad(database, row));
    problems.push(...own.map((problem) => `"${row.name}" (${row.id}): ${problem}`));
    say(`${own.length === 0 ? 'ok   ' : 'WRONG'} ${row.name}, ${row.revision} edits`);
  }
  for (const [what, look] of [
    ['sounds, pictures and footage', verifyMedia],
    ['productions, rigs, poses and versions', verifyHouse],
  ] as const) {
    const own: string[] = [];
    await look(database, (problem) => own.push(problem)).catch((error) =>
      own.push(`${what} cannot be looked through: ${wordsOf(error)}`),
    );
    problems.push(...own);
    say(`${own.length === 0 ? 'ok   ' : 'WRONG'} ${what}`);
  }
  return { shots: rows.length, edits, problems };
}
