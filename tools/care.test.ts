import { appendFileSync, copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { freePort, newFolder, READY, running, Start } from './testing/started.ts';

/** Backups of a Varrup that runs, put back somewhere else. */

const varrup = async (folder: string, ...args: string[]) => {
  const tool = new Start(folder, 0, ['tools/varrup.mjs', ...args]);
  return { code: await tool.over, output: tool.output };
};

test('a backup of a running Varrup is put back in another folder, whole; nothing else is', async () => {
  const [here, there] = [newFolder(), newFolder()];
  const start = new Start(here, await freePort());
  await start.says(READY);
  const { id } = await start.ask<{ id: string }>('/productions', 'POST', { name: 'The plug pulled' });
  const shot = await start.ask<{ id: string }>(`/productions/${id}/shots`, 'POST', { name: 'Storm' });
  const edit = {
    id: 'e1',
    command: 'shot.rate',
    label: '30 a second',
    patches: [{ op: 'replace', path: '/rate', value: 30 }],
  };
  await start.ask(`/shots/${shot.id}/edits`, 'POST', { base: 0, edits: [edit] });

  const file = join(newFolder(), 'all.backup');
  expect(await varrup(here, 'backup', file)).toMatchObject({
    code: 0,
    output: expect.stringMatching(/\d+ shots, [\d.]+ MB, read back and whole\.$/m),
  });
  expect(await varrup(here, 'backup', file)).toMatchObject({
    code: 1,
    output: expect.stringContaining('is there already'),
  });
  // What comes after it is not in it.
  await start.ask('/productions', 'POST', { name: 'Too late' });
  expect(await varrup(here, 'restore', file)).toMatchObject({
    code: 1,
    output: expect.stringContaining('Varrup is running'),
  });
  expect(await varrup(here, 'verify')).toMatchObject({ code: 0, output: expect.stringContaining('All is well.') });
  await start.end();
  expect(await varrup(here, 'restore', file)).toMatchObject({
    code: 1,
    output: expect.stringContaining('There are data in'),
  });

  const spoilt = `${file}.spoilt`;
  copyFileSync(file, spoilt);
  appendFileSync(spoilt, 'x');
  const cut = `${file}.cut`;
  writeFileSync(cut, readFileSync(file).subarray(0, 4000));
  const none = `${file}.none`;
  writeFileSync(none, 'hello');
  for (const [what, words] of [
    [spoilt, 'is not as it was made'],
    [cut, 'is not as it was made'],
    [none, 'is not a backup of Varrup'],
    [`${file}.gone`, 'There is no file'],
  ])
    expect(await varrup(there, 'restore', what)).toMatchObject({ code: 1, output: expect.stringContaining(words) });

  expect(await varrup(there, 'restore', file)).toMatchObject({
    code: 0,
    output: expect.stringContaining('Put back into'),
  });
  expect(running(there)).toEqual([]);
  const again = new Start(there, await freePort());
  await again.says(READY);
  const productions = await again.productions();
  expect(productions).toContain('The plug pulled');
  expect(productions).not.toContain('Too late');
  const opened = await again.ask<{ revision: number; edits: { label: string }[] }>(`/shots/${shot.id}`);
  expect(opened).toMatchObject({ revision: 1, edits: [{ label: '30 a second' }] });
});
