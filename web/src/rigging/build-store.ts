import {
  type Build,
  boxOf,
  buildOf,
  dressed,
  notBuiltHere,
  Painting,
  parseRig,
  problemText,
  type Rig,
  type RigLink,
  shapesOf,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { toast } from 'sonner';
import { create } from 'zustand';
import { api } from '../api/client.ts';
import { fetchRig } from '../shot/linked.ts';
import { drafts } from './drafts.ts';
import type { rigger } from './rigging.worker.ts';

/** What a press in the view does. */
export type RiggingTool = 'pick' | 'press' | 'shape' | 'paint';
/** How weights are seen: not, of all joints in their tints, or of the picked one. */
export type Tints = 'none' | 'all' | 'picked';

export interface Brush {
  readonly does: 'more' | 'less' | 'even';
  /** Metres. */
  readonly reach: number;
  readonly strength: number;
}

/** How a hand shapes what it takes hold of. */
export interface Hand {
  readonly does: 'pull' | 'turn' | 'size' | 'smooth';
  /** Metres along the skin. */
  readonly reach: number;
}

interface Building {
  /** What is being fetched, or why it is not there. */
  readonly state: 'fetching' | 'ready' | 'refused';
  readonly problem: string | null;
  readonly link: RigLink | null;
  readonly build: Build | null;
  /** What it was when it was last kept. */
  readonly kept: Build | null;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  readonly picked: string | null;
  readonly tool: RiggingTool;
  readonly pairs: boolean;
  readonly tints: Tints;
  readonly brush: Brush;
  readonly hand: Hand;
  /** The shape that is shown and shaped, by name; null for the body itself. */
  readonly shape: string | null;
  /** How far the weights are, from 0 to 1; null where none are computed. */
  readonly weighing: number | null;
  /** The pose it is tried in, by name; null while it is built. */
  readonly trying: string | null;
  readonly keeping: boolean;
  /** Whether a draft of this browser was gone on with. */
  readonly drafted: boolean;
  /** What is to be known of it before it is built on. */
  readonly note: string | null;
}

interface Step {
  readonly build: Build;
  readonly picked: string | null;
  readonly did: string;
}

const START: Building = {
  state: 'fetching',
  problem: null,
  link: null,
  build: null,
  kept: null,
  past: [],
  future: [],
  picked: null,
  tool: 'press',
  pairs: true,
  tints: 'none',
  brush: { does: 'more', reach: 0.1, strength: 0.5 },
  hand: { does: 'pull', reach: 0.1 },
  shape: null,
  weighing: null,
  trying: null,
  keeping: false,
  drafted: false,
  note: null,
};

/** So many steps can be taken back. */
const MOST_STEPS = 200;

export const useBuilding = create<Building>(() => START);

let worker: Worker | null = null;
let painting: { readonly of: Build; readonly painting: Painting } | null = null;

/** Opens a rig of the library to build on; goes on with a draft where there is one. */
export async function openToBuild(link: RigLink): Promise<void> {
  closeBuilding();
  useBuilding.setState({ ...START, link });
  try {
    const rig = await fetchRig(link);
    const kept = buildOf(rig);
    const draft = await drafts.get(link.rig).catch(() => undefined);
    if (useBuilding.getState().link !== link) return;
    const goesOn = draft !== undefined && draft.from === link.version;
    const build = goesOn ? draft.build : kept;
    const tool = build.joints.length > 3 ? 'pick' : 'press';
    const { min, max } = boxOf(build);
    const reach = Math.max(0.002, Math.round((max[1] - min[1]) * 120) / 1000);
    const { brush, hand } = START;
    useBuilding.setState({
      state: 'ready',
      build,
      kept,
      drafted: goesOn,
      tool,
      note: goesOn ? null : notBuiltHere(rig),
      brush: { ...brush, reach },
      hand: { ...hand, reach },
    });
  } catch (error) {
    if (useBuilding.getState().link === link)
      useBuilding.setState({ state: 'refused', problem: (error as Error).message });
  }
}

/** Lets go of what is being built, and stops what is being computed of it. */
export function closeBuilding(): void {
  stopWeighing();
  painting = null;
}

/** One step of building. What is refused is said, and nothing changes. */
export function change(did: string, make: (build: Build) => Build | [Build, string]): void {
  const { build, picked, past } = useBuilding.getState();
  if (!build) return;
  try {
    const made = make(build);
    const [next, pick] = Array.isArray(made) ? made : [made, picked];
    if (next === build) return;
    stopWeighing();
    const steps = [...past, { build, picked, did }].slice(-MOST_STEPS);
    useBuilding.setState({ ...shownOf(next, pick), past: steps, future: [] });
    saveDraft();
  } catch (error) {
    toast.error((error as Error).message);
  }
}

/** A build as it is shown from now on: what is picked of it may have gone. */
function shownOf(build: Build, picked: string | null) {
  const { shape } = useBuilding.getState();
  return {
    build,
    picked: build.joints.some((j) => j.id === picked) ? picked : null,
    shape: shape !== null && shapesOf(build).includes(shape) ? shape : null,
    trying: null,
  };
}

function go(from: 'past' | 'future', to: 'past' | 'future'): void {
  const state = useBuilding.getState();
  const step = from === 'past' ? state.past.at(-1) : state.future.at(-1);
  if (!step || !state.build) return;
  stopWeighing();
  const here: Step = { build: state.build, picked: state.picked, did: step.did };
  useBuilding.setState({
    ...shownOf(step.build, step.picked),
    [from]: state[from].slice(0, -1),
    [to]: [...state[to], here],
  });
  saveDraft();
}
export const undoBuilding = (): void => go('past', 'future');
export const redoBuilding = (): void => go('future', 'past');

let waiting: ReturnType<typeof setTimeout> | undefined;

/** Holds what is not kept yet in this browser, shortly after it was last changed. */
function saveDraft(): void {
  clearTimeout(waiting);
  waiting = setTimeout(() => {
    const { build, link, kept } = useBuilding.getState();
    if (!build || !link) return;
    const written = build === kept ? drafts.remove(link.rig) : drafts.put({ rig: link.rig, from: link.version, build });
    written.catch(() => toast.error('This browser cannot hold the draft: keep the rig before you leave.'));
  }, 300);
}

/** Lets go of the draft: it is again as it was kept. */
export function startAgain(): void {
  const { kept, link } = useBuilding.getState();
  if (!kept || !link) return;
  change('start again', () => kept);
  useBuilding.setState({ drafted: false });
}

/** Computes the weights of some meshes. */
export async function weigh(meshes: readonly string[]): Promise<void> {
  const { build } = useBuilding.getState();
  if (!build || meshes.length === 0) return;
  stopWeighing();
  const own = new Worker(new URL('./rigging.worker.ts', import.meta.url), { type: 'module' });
  worker = own;
  useBuilding.setState({ weighing: 0 });
  try {
    const remote = Comlink.wrap<typeof rigger>(own);
    const done = await remote.weigh(
      build,
      meshes,
      Comlink.proxy((share) => {
        if (worker === own) useBuilding.setState({ weighing: share });
      }),
    );
    if (worker !== own) return;
    worker = null;
    const { tints } = useBuilding.getState();
    useBuilding.setState({ weighing: null, tints: tints === 'none' ? 'all' : tints });
    change('weights', (now) => ({ ...now, meshes: done }));
  } catch (error) {
    if (worker === own) toast.error(`The weights could not be computed. ${(error as Error).message}`);
  } finally {
    if (worker === own) stopWeighing();
    own.terminate();
  }
}

export function stopWeighing(): void {
  worker?.terminate();
  worker = null;
  if (useBuilding.getState().weighing !== null) useBuilding.setState({ weighing: null });
}

/** What is painted on: made once for as long as nothing else changes the rig. */
export function paintingNow(): Painting | null {
  const { build } = useBuilding.getState();
  if (!build) return null;
  if (painting?.of !== build) painting = { of: build, painting: new Painting(build) };
  return painting.painting;
}

/** Ends a stroke: it is one step. */
export function endStroke(did = 'paint weights'): void {
  const own = painting?.painting;
  if (!own) return;
  const done = own.done();
  change(did, () => done);
  painting = { of: done, painting: own };
}

/** The rig as it would be kept. @throws an error that says what is wrong with it */
export function rigNow(build: Build, version: number, changes: string): Rig {
  const parsed = parseRig(dressed(build, { version, changes }));
  if (!parsed.ok) throw new Error(parsed.problems.slice(0, 3).map(problemText).join('; '));
  return parsed.value;
}

/** Keeps it as a new version. @returns its link, or null where it was refused */
export async function keepRig(version: number, changes: string): Promise<RigLink | null> {
  const { build } = useBuilding.getState();
  if (!build) return null;
  useBuilding.setState({ keeping: true });
  try {
    const rig = rigNow(build, version, changes);
    await api.addRig(rig);
    clearTimeout(waiting);
    await drafts.remove(rig.id);
    useBuilding.setState({ link: { rig: rig.id, version }, kept: build, drafted: false });
    return { rig: rig.id, version };
  } catch (error) {
    toast.error(`The rig could not be kept. ${(error as Error).message}`);
    return null;
  } finally {
    useBuilding.setState({ keeping: false });
  }
}
