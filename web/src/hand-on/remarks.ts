import type { Choices, Remark, Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { create } from 'zustand';
import { wholeOf } from '../mirror/mirror.ts';
import type { hander } from './hand-on.worker.ts';

/** What is to be known before what is wanted is handed on; null while it is being looked through. */
export const useRemarks = create<{ readonly remarks: readonly Remark[] | null }>(() => ({ remarks: null }));

let worker: Worker | null = null;
let asked = 0;

/** Looks what is wanted through, in a worker; a newer look ends an older one. */
export async function lookThroughWanted(shot: Shot, choices: Choices): Promise<void> {
  const mine = ++asked;
  useRemarks.setState({ remarks: null });
  worker?.terminate();
  worker = new Worker(new URL('./hand-on.worker.ts', import.meta.url), { type: 'module' });
  const remarks = await Comlink.wrap<typeof hander>(worker).remarks(wholeOf(shot), choices);
  if (mine !== asked) return;
  useRemarks.setState({ remarks });
  worker?.terminate();
  worker = null;
}
