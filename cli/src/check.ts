import { checkOf, checks, findingsOf } from '@varrup/core';
import type { Command } from 'commander';
import { readShot } from './read-shot.ts';

/** `varrup check SHOT.json`: what the checks find in a shot, a line each; ends with 1 where there is a fault among them. */
export function registerCheck(program: Command): void {
  program
    .command('check')
    .description('say what the checks find in a shot: frame, check, sentence')
    .argument('<file>', "a shot's document")
    .option('--json', 'as JSON, with everything that was measured')
    .action(async (file: string, { json }: { json?: boolean }) => {
      const findings = findingsOf(await readShot(file));
      if (json) process.stdout.write(`${JSON.stringify(findings, null, 2)}\n`);
      else {
        for (const f of findings) {
          const at = f.frame === null ? '-' : String(Math.round(f.frame * 100) / 100);
          process.stdout.write(`${at.padStart(6)}  ${(checkOf(f.check)?.name ?? f.check).padEnd(24)}  ${f.text}\n`);
        }
        process.stdout.write(`${findings.length} found by ${checks.length} checks\n`);
      }
      if (findings.some((f) => checkOf(f.check)?.weight === 'fault')) process.exitCode = 1;
    });
}
