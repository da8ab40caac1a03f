import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';

const read = (file: string) => readFileSync(join(import.meta.dirname, '..', file), 'utf8');

test.each(['', 'core/', 'demo/', 'server/', 'web/', 'cli/', 'e2e/'])(
  '%spackage.json has the version the changelog tells of',
  (folder) => {
    const [, told] = /^## (\d+\.\d+\.\d+)$/m.exec(read('CHANGELOG.md'))!;
    expect(JSON.parse(read(`${folder}package.json`)).version).toBe(told);
  },
);
