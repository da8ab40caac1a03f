import type { Shot } from '../../document/shot.ts';
import { Program } from '../../evaluate/program.ts';
import type { Media } from '../../media/index.ts';
import { Refused } from '../../schema/refused.ts';
import { Names } from '../scene/names.ts';
import type { Motion, Scene } from '../scene/scene.ts';
import type { Choices } from './choices.ts';
import { companyOf } from './company.ts';
import { reachesOf } from './measure.ts';
import { type Laid, layMotion } from './motions.ts';
import { type LeftOut, planScene } from './plan.ts';
import { runsOf } from './runs.ts';

/** A scene made of a shot, and what is to be said about it. */
export interface Baked {
  readonly scene: Scene;
  readonly motions: readonly Omit<Laid, 'motion'>[];
  /** The nodes that stand for somebody of the cast, or for a joint of a rig. */
  readonly stand: readonly StandIn[];
  /** What of the shot is not in it, or is in it in another way. */
  readonly left: readonly LeftOut[];
}

/** A node that stands for a member, or for one of its joints. */
export interface StandIn {
  readonly node: string;
  readonly member: string;
  readonly joint: string | null;
}

/**
 * Makes a scene of a shot: whatever moves it there, formulas, holds, limbs, spines, deformers and ways, is keys of nodes here.
 * @param onProgress is told how much is done, from 0 to 1 @param media the pictures of its bodies; those that are not there stay out
 * @throws Refused where nothing is left to hand on
 */
export function bake(
  shot: Shot,
  choices: Choices,
  onProgress: (share: number) => void = () => {},
  media: Media = new Map(),
): Baked {
  const runs = runsOf(shot, choices);
  const program = runs[0]?.program ?? new Program(shot);
  const frame = program.createFrame();
  program.evaluate(runs[0]?.first ?? shot.play.first, frame);
  const { nodes: planned, bodies, skins, left } = planScene(shot, choices, runs, frame, media);
  if (planned.length === 0) throw new Refused('There is nobody to hand on: choose whom of the cast.');
  const nodes = planned.map((p) => p.node);
  const reaches = reachesOf(nodes, bodies.meshes, skins);
  const laid = runs.map((run, i) => {
    const within = (share: number) => onProgress((i + share) / runs.length);
    return layMotion(run, planned, reaches, choices, shot.rate, within);
  });
  const names = new Names(choices.plainNames);
  const named = laid.map(({ motion }) => names.give(motion.name));
  const ofClips = new Map(runs.flatMap(({ clip }, i) => (clip === null ? [] : [[clip, named[i]] as const])));
  const motions = laid.map(({ motion }, i): Motion => {
    const company = companyOf(runs[i], planned, choices, ofClips);
    return { ...motion, name: named[i], ...(company ? { company } : {}) };
  });
  const { meshes, materials, pictures } = bodies;
  return {
    scene: { name: shot.name, nodes, meshes, materials, skins, pictures, motions },
    motions: laid.map(({ motion: _, ...about }) => about),
    stand: planned.flatMap(({ node, member, is }) => (is ? [{ node: node.name, member, joint: is.joint }] : [])),
    left,
  };
}
