import type { Choices, Remark, Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { useEffect } from 'react';
import { create } from 'zustand';
import { wholeOf } from '../mirror/mirror.ts';
import { useShot } from '../shot/shot-store.ts';
import { useSelection } from '../view/selection.ts';
import type { hander } from './hand-on.worker.ts';
import { choicesOf, useWanted } from './wanted.ts';

/** What is to be known before what is wanted is handed on; null while it is being looked through. */
export const useRemarks = create<{ readonly remarks: readonly Remark[] | null }>(() => ({ remarks: null }));

/** How long edits and choices rest before they are looked at, in milliseconds. */
const REST = 300;

let worker: Worker | null = null;
let asked = 0;
/** What the remarks are of, or will be: so that going from panel to panel does not look again. */
let of: { readonly shot: Shot; readonly choices: string } | null = null;

/** Has what is wanted of the shot looked through, again and again as it changes, for as long as somebody shows what came of it. */
export function useLookedThrough(shown: Shot): void {
  const shot = useShot((s) => s.committed) ?? shown;
  const { wishes, without } = useWanted();
  const picked = useSelection((s) => s.picked);
  useEffect(() => {
    const choices = choicesOf(shot, wishes, without, picked);
    const timer = setTimeout(() => void look(shot, choices), REST);
    return () => clearTimeout(timer);
  }, [shot, wishes, without, picked]);
}

/** Looks through in a worker; a newer look ends an older one. */
async function look(shot: Shot, choices: Choices): Promise<void> {
  const written = JSON.stringify(choices);
  if (of?.shot === shot && of.choices === written) return;
  of = { shot, choices: written };
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
