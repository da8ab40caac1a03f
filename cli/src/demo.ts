import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { nightFerry } from '@varrup/demo';
import type { Command } from 'commander';
import { Refused } from './read-shot.ts';

/** `varrup demo DIR`: writes each shot of the Night Ferry as `NN-name.json`. */
export function registerDemo(program: Command): void {
  program
    .command('demo')
    .description("write each demo shot's document into a folder")
    .argument('<dir>', 'the folder; it is made if it is missing')
    .action(async (dir: string) => {
      try {
        await mkdir(dir, { recursive: true });
        for (const shot of nightFerry.shots()) {
          const file = join(dir, `${shot.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.json`);
          await writeFile(file, `${JSON.stringify(shot, null, 2)}\n`);
          process.stdout.write(`${file}\n`);
        }
      } catch (error) {
        throw new Refused(`${dir}: cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
      }
    });
}
