import { type Company, clipsOf, type Pressed, tryCompany } from '@varrup/core';
import { create } from 'zustand';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import { useLooking } from '../view/looking.ts';
import { usePlayhead } from '../view/playhead.ts';
import { select } from '../view/selection.ts';

/** A trial of clips in company: it plays on and on, and keys of the keyboard start, stop and lead on. */
interface Trial {
  readonly company: Company | null;
  /** Up to which frame it is laid out; further before it gets there. */
  readonly until: number;
}

export const useTrial = create<Trial>(() => ({ company: null, until: 0 }));

/** How far ahead a trial is laid out, and how near its end it is laid out anew, frames. */
const [AHEAD, NEAR] = [480, 120];

let preview: Preview | null = null;
let endings: (() => void)[] = [];

function show(company: Company, until: number): void {
  useTrial.setState({ company, until });
  preview?.show(tryCompany, { company, until });
}

/** Begins a trial. @param base the clip that has the body first; null where it stands at rest */
export function beginTrial(rig: string, base: string | null): void {
  endTrial();
  const { shot } = useShot.getState();
  if (!shot) return;
  preview = useShot.getState().begin('company');
  const from = shot.play.first;
  // Whoever walks off is gone along with, for as long as it is tried.
  const { follow } = useLooking.getState();
  select([rig]);
  useLooking.setState({ follow: true });
  show({ rig, base, from, pressed: [] }, from + AHEAD);
  usePlayhead.getState().go(from);
  usePlayhead.getState().play(() => useShot.getState().shot);
  addEventListener('keydown', onKey, { capture: true });
  endings = [
    () => useLooking.setState({ follow }),
    () => removeEventListener('keydown', onKey, { capture: true }),
    usePlayhead.subscribe(({ frame }) => {
      const { company, until } = useTrial.getState();
      if (company && frame > until - NEAR) show(company, until + AHEAD);
    }),
    // A trial is of one shot, and nobody sees it where nothing of the shot is seen.
    useShot.subscribe(({ committed }, old) => {
      if (committed?.id !== old.committed?.id) endTrial();
    }),
  ];
}

/** Ends it. What it has come to is kept as the rig's tracks, or nothing of it. */
export function endTrial(keep = false): void {
  const { company } = useTrial.getState();
  for (const end of endings) end();
  endings = [];
  if (!company) return;
  const frame = Math.ceil(usePlayhead.getState().frame);
  usePlayhead.getState().stop();
  useTrial.setState({ company: null, until: 0 });
  if (keep) preview?.make(tryCompany, { company, until: Math.max(company.from + 1, frame) });
  else preview?.drop();
  preview = null;
  const { shot } = useShot.getState();
  if (shot) usePlayhead.getState().go(Math.min(frame, shot.play.last));
}

/** Presses a key or an arrow of the trial, from the next frame on. */
export function pressInTrial(press: Pressed['press']): void {
  const { company, until } = useTrial.getState();
  if (!company) return;
  const frame = Math.ceil(usePlayhead.getState().frame) + 1;
  show({ ...company, pressed: [...company.pressed, { frame, press }] }, Math.max(until, frame + NEAR));
}

const arrows: Readonly<Record<string, 'up' | 'down' | 'left' | 'right'>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

function onKey(event: KeyboardEvent): void {
  const { company } = useTrial.getState();
  const { shot } = useShot.getState();
  const target = event.target instanceof Element ? event.target : null;
  // Who types a number changes how a clip goes about, while it plays.
  if (!company || !shot || event.ctrlKey || event.altKey || event.metaKey) return;
  if (target?.closest('input:not([type=checkbox]), select, textarea, [role=dialog], [role=menu]')) return;
  const arrow = arrows[event.key];
  const key = event.key.toLowerCase();
  const isKey = clipsOf(shot, company.rig).some((clip) => clip.manner.key === key);
  if (event.key !== 'Escape' && !arrow && !isKey) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  if (event.key === 'Escape') endTrial();
  else if (event.repeat) return;
  else if (arrow) pressInTrial({ arrow });
  else pressInTrial({ key });
}
