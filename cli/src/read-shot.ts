import { readdir, readFile, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { linksIn, parseRig, parseShot, problemText, Rigs, type Shot } from '@varrup/core';
import { harbourRigs } from '@varrup/demo';

/** A document above this is refused unread. */
const MAX_BYTES = 256 * 1024 * 1024;

/** Something the user must mend; its message is all they see. */
export class Refused extends Error {}

/** Reads a shot's document from a file, `-` being the standard input; the rigs it links must be the harbour's, or lie beside it as `NAME.rig.json`. @throws Refused with sentences that say what is wrong and where */
export async function readShot(file: string): Promise<Shot> {
  const json = await readJson(file);
  const parsed = parseShot(json, linksIn(json).length > 0 ? await rigsAtHand(file) : Rigs.none);
  if (parsed.ok) return parsed.value;
  throw new Refused(parsed.problems.map((p) => `${file} ${problemText(p)}`).join('\n'));
}

/** The harbour's rigs, and those that lie beside a file. */
async function rigsAtHand(file: string): Promise<Rigs> {
  if (file === '-') return harbourRigs();
  const dir = dirname(file);
  const names = (await readdir(dir).catch(() => [])).filter((name) => name.endsWith('.rig.json'));
  const rigs = await Promise.all(
    names.map(async (name) => {
      const parsed = parseRig(await readJson(join(dir, name)));
      if (!parsed.ok) throw new Refused(parsed.problems.map((p) => `${join(dir, name)} ${problemText(p)}`).join('\n'));
      return parsed.value;
    }),
  );
  return harbourRigs().with(rigs);
}

async function readJson(file: string): Promise<unknown> {
  let text: string;
  try {
    if (file === '-') return JSON.parse((await fromInput()).toString('utf8'));
    const { size } = await stat(file);
    if (size > MAX_BYTES) throw new Refused(`${file}: is larger than ${MAX_BYTES / 1024 / 1024} MiB`);
    text = await readFile(file, 'utf8');
  } catch (error) {
    if (error instanceof Refused) throw error;
    if (error instanceof SyntaxError) throw new Refused(`${file}: is not JSON (${error.message})`);
    throw new Refused(`${file}: cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Refused(`${file}: is not JSON (${(error as Error).message})`);
  }
}

/** All of the standard input. */
export async function fromInput(): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of process.stdin as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > MAX_BYTES) throw new Refused(`-: is larger than ${MAX_BYTES / 1024 / 1024} MiB`);
    parts.push(part);
  }
  return Buffer.concat(parts);
}
