import { announce, commandOf } from '../commands/list.ts';
import { keepMilestone } from '../review/milestones.ts';
import { useShot } from '../shot/shot-store.ts';
import { useSelection } from '../view/selection.ts';
import { begin, save } from './made.ts';
import { choicesOf, useWanted } from './wanted.ts';

/** Hands the shot on as it is wanted, and has the browser save what comes of it. */
export async function handOnNow(): Promise<void> {
  const { committed } = useShot.getState();
  if (!committed) return;
  const { wishes, without } = useWanted.getState();
  const choices = choicesOf(committed, wishes, without, useSelection.getState().picked);
  const job = await begin(committed, { is: 'files', format: wishes.format, choices }).ended;
  if (job.files.length === 0) return;
  save(job.files[0]);
  await keepMilestone(`handed on as ${job.files[0].name}`);
}

announce([
  {
    id: 'handOn.now',
    label: 'Hand on: make the files and save them',
    group: 'Shot',
    shortcut: 'Alt+Shift+S',
    run: () => {
      commandOf('view.files').run();
      void handOnNow();
    },
    enabled: () => useShot.getState().shot !== null,
  },
]);
