import { announce } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { ACCEPTED } from './readable.ts';
import { takeFiles } from './taking.ts';

/** Asks for files, and reads them. */
function chooseFiles(): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.accept = ACCEPTED;
  input.onchange = () => void takeFiles([...(input.files ?? [])]);
  input.click();
}

announce([
  {
    id: 'cast.file',
    label: 'Bring in a file: glTF, BVH, curves, a picture, a sound or footage…',
    group: 'Cast',
    run: chooseFiles,
    enabled: () => useShot.getState().shot !== null,
  },
]);
