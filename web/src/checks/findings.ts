import type { Finding, Shot, TriedCrossing } from '@varrup/core';
import * as Comlink from 'comlink';
import { create } from 'zustand';
import { Mirror } from '../mirror/mirror.ts';
import { useShot } from '../shot/shot-store.ts';
import type { checker, Into } from './checks.worker.ts';

/** What the checks have found in the shot on the desk. They run in a worker after each edit; a newer edit ends an older look. */
export interface Findings {
  readonly findings: readonly Finding[];
  /** `looking` until the findings are those of the shot as it is. */
  readonly state: 'none' | 'looking' | 'done' | 'failed';
  readonly milliseconds: number;
  /** The finding one is at, by id. */
  readonly at: string | null;
  set(change: Partial<Pick<Findings, 'at'>>): void;
}

export const useFindings = create<Findings>((set) => ({
  findings: [],
  state: 'none',
  milliseconds: 0,
  at: null,
  set: (change) => set(change),
}));

/** Edits that come faster than this, in milliseconds, are looked at together. */
const REST = 150;

let remote: Comlink.Remote<typeof checker> | null = null;
const mirror = new Mirror();
let timer = 0;

/** What is looked at: the shot as it is, or as the draft of a kit would make it. A hand that drags is not waited on. */
const looked = ({ draft, committed }: ReturnType<typeof useShot.getState>) => draft ?? committed;

/** Looks the shot through after each of its edits, from now until what it returns is called. */
export function watchShot(): () => void {
  const ask = () => {
    clearTimeout(timer);
    timer = window.setTimeout(() => void look(), REST);
  };
  const end = useShot.subscribe((now, old) => {
    if (looked(now) === looked(old)) return;
    if (now.committed?.id !== old.committed?.id) useFindings.setState({ findings: [], state: 'none', at: null });
    if (now.committed) {
      useFindings.setState({ state: 'looking' });
      ask();
    }
  });
  // What nobody sees is not looked at; whoever comes back finds the shot looked through.
  const onShown = () => {
    if (!document.hidden && useFindings.getState().state === 'looking') ask();
  };
  document.addEventListener('visibilitychange', onShown);
  if (useShot.getState().committed) ask();
  return () => {
    end();
    document.removeEventListener('visibilitychange', onShown);
    clearTimeout(timer);
    useFindings.setState({ findings: [], state: 'none', at: null });
  };
}

function worker(): Comlink.Remote<typeof checker> {
  remote ??= Comlink.wrap<typeof checker>(
    new Worker(new URL('./checks.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}

/** Tries crossings into a span, off the interface's thread. @param tell how many are tried */
export async function tryCrossings(
  shot: Shot,
  into: Into,
  tell: (tried: number) => void,
): Promise<TriedCrossing | null> {
  try {
    return await worker().cross(mirror.news(shot), into, Comlink.proxy(tell));
  } catch (error) {
    mirror.forget();
    throw error;
  }
}

/** Calls off what is being tried. */
export const leaveCrossings = (): void => void worker().leave();

async function look(): Promise<void> {
  const shot = looked(useShot.getState());
  if (!shot || document.hidden) return;
  try {
    const found = await worker().look(mirror.news(shot));
    if (found && looked(useShot.getState()) === shot) useFindings.setState({ ...found, state: 'done' });
  } catch {
    mirror.forget();
    useFindings.setState({ state: 'failed' });
  }
}

const byMember = new WeakMap<readonly Finding[], Map<string, Finding[]>>();

/** Findings by the member they are of. */
export function findingsByMember(findings: readonly Finding[]): ReadonlyMap<string, readonly Finding[]> {
  const known = byMember.get(findings);
  if (known) return known;
  const made = new Map<string, Finding[]>();
  for (const f of findings) made.set(f.member, [...(made.get(f.member) ?? []), f]);
  byMember.set(findings, made);
  return made;
}
