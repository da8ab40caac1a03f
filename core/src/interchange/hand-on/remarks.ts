import type { Finding } from '../../check/check.ts';
import { findingsOf } from '../../check/run.ts';
import { castOrder, withDescendants } from '../../document/hierarchy.ts';
import type { Shot } from '../../document/shot.ts';
import { takeUpClip } from '../../edit/commands/clips.ts';
import { Program } from '../../evaluate/program.ts';
import { invert, multiply } from '../../pose/affine.ts';
import type { Choices } from '../bake/choices.ts';
import { Names } from '../scene/names.ts';

/** Something to know before a shot is handed on. It never hinders. */
export interface Remark {
  /** A fault is seen by whoever receives it; a note is good to know. */
  readonly weight: 'fault' | 'note';
  readonly text: string;
  /** Of whom it is, and where: to go there. */
  readonly member: string | null;
  readonly frame: number | null;
  /** The clip it is in, where that is not the one at work. */
  readonly clip: string | null;
  readonly about: 'name' | 'loose' | 'loop' | 'check' | 'empty' | 'sound';
  /** What the checks found, where they did. */
  readonly finding: Finding | null;
  /** For a name that does not go out as it is: one that would. */
  readonly plainName: string | null;
}

/** Further apart than this the ends of a loop are seen to be, metres. */
const LOOP = 1e-3;

/** Looks through what is chosen to be handed on. */
export function remarksOf(shot: Shot, choices: Choices): Remark[] {
  const clips = choices.clips.flatMap((id) => shot.clips.get(id) ?? []);
  const remarks = [...nameRemarks(shot, choices), ...looseRemarks(shot), ...soundRemarks(shot)];
  if (choices.frames) remarks.push(...findingsOf(shot).map((finding) => found(finding, null)));
  for (const clip of clips) {
    const at = takeUpClip.apply(shot, { id: clip.id });
    remarks.push(...loopRemarks(at, clip.id));
    // What the clip at work shows has been said of the shot.
    if (choices.frames && clip.kept === null) continue;
    const own = withDescendants(at, [clip.rig]);
    remarks.push(
      ...findingsOf(at)
        .filter((f) => own.has(f.member))
        .map((f) => found(f, clip.kept ? clip.id : null)),
    );
  }
  return remarks;
}

const remark = (about: Remark['about'], text: string, more: Partial<Remark> = {}): Remark => ({
  weight: 'note',
  member: null,
  frame: null,
  clip: null,
  finding: null,
  plainName: null,
  about,
  text,
  ...more,
});

const found = (finding: Finding, clip: string | null): Remark =>
  remark('check', finding.text, { weight: 'fault', member: finding.member, frame: finding.frame, clip, finding });

function nameRemarks(shot: Shot, { plainNames, members }: Choices): Remark[] {
  if (!plainNames) return [];
  const chosen = members && withDescendants(shot, members);
  const names = new Names(true);
  return castOrder(shot).flatMap(({ member: { id, name, kind } }) => {
    if (kind === 'control' || (chosen && !chosen.has(id))) return [];
    const given = names.give(name);
    // A space that becomes an underscore surprises nobody.
    return given === name.replaceAll(' ', '_')
      ? []
      : [remark('name', `“${name}” goes out as ${given}`, { member: id, plainName: given.replaceAll('_', ' ') })];
  });
}

function looseRemarks(shot: Shot): Remark[] {
  const count = shot.loose.size;
  if (count === 0) return [];
  const text = `${count === 1 ? 'One loose change stays' : `${count} loose changes stay`} here: what is not keyed is not handed on`;
  return [remark('loose', text, { weight: 'fault' })];
}

const soundRemarks = (shot: Shot): Remark[] =>
  shot.sounds.size > 0 ? [remark('sound', 'Sounds go with movies, and by themselves as WAV: not with motions')] : [];

/** Whether a clip that repeats comes back to where it began. */
function loopRemarks(at: Shot, id: string): Remark[] {
  const clip = at.clips.at(id);
  const at0 = { member: clip.rig, clip: id, frame: clip.first } as const;
  const own = withDescendants(at, [clip.rig]);
  if (![...at.curves.keys()].some((path) => own.has(path.slice(0, path.indexOf('.')))))
    return [remark('empty', `${clip.name} has no keys: nothing moves in it`, at0)];
  if (!clip.cycles) return [];
  const program = new Program(at);
  const frame = program.createFrame();
  const rig = program.layout.rigAt.get(program.layout.slotOf.get(clip.rig)!);
  if (!rig) return [];
  const pose = (time: number) => {
    program.evaluate(time, frame);
    const back = new Float64Array(16);
    const out = new Float64Array(rig.compiled.rig.joints.length * 16);
    invert(back, 0, frame.world, rig.root * 16);
    rig.compiled.rig.joints.forEach((_, j) => {
      multiply(out, j * 16, back, 0, frame.world, (rig.joints + j) * 16);
    });
    return out;
  };
  const [begins, ends] = [pose(clip.first), pose(clip.first + clip.length)];
  let [worst, which] = [0, 0];
  rig.compiled.rig.joints.forEach((_, j) => {
    const far = Math.hypot(...[12, 13, 14].map((i) => begins[j * 16 + i] - ends[j * 16 + i]));
    if (far > worst) [worst, which] = [far, j];
  });
  if (worst <= LOOP) return [];
  const joint = rig.compiled.rig.joints[which].id;
  const text = `The loop of ${clip.name} does not close: ${joint} is ${(worst * 1000).toFixed(0)} mm from where it began`;
  return [remark('loop', text, { weight: 'fault', ...at0 })];
}
