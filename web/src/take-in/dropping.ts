import { runNow } from '../board/board-view.ts';
import { layPicture } from '../board/panel-media.ts';
import { PICTURE } from './readable.ts';
import { takeFiles } from './taking.ts';

/** Files that are dropped on a desk: pictures go under the panel where one plans, all else is brought in. */
export async function dropFiles(files: readonly File[]): Promise<void> {
  const run = location.pathname.split('/')[3] === 'plan' ? runNow() : null;
  if (run && files.every((file) => PICTURE.test(file.name))) await layPicture(run.panel.id, files[0]);
  else await takeFiles(files);
}
