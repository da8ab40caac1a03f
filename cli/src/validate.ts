import type { Command } from 'commander';
import { readShot } from './read-shot.ts';

/** `varrup validate FILE`: says whether a file is a shot, and if not, what is wrong and where. */
export function registerValidate(program: Command): void {
  program
    .command('validate')
    .description("check a shot's document; exits 1 with sentences where something is wrong")
    .argument('<file>', "a shot's document")
    .action(async (file: string) => {
      const shot = await readShot(file);
      const members = shot.members.keys().length;
      const keys = shot.curves.values().reduce((n, c) => n + c.keys.length, 0);
      process.stdout.write(`${file}: "${shot.name}" is a shot with ${members} members and ${keys} keys.\n`);
    });
}
