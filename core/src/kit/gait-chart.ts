import { controlsOf } from '../document/casting.ts';
import type { Clip, Stance } from '../document/clip.ts';
import type { Recipe } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';
import { anatomyOf } from '../gait/anatomy.ts';
import { gait } from './gait.ts';

/** The chart of which foot is down when: its rows, and what moving a bar of it comes to. */

/** A foot of the chart. */
export interface FootRow {
  /** The foot's control in the rig, and as a member of the shot. */
  readonly control: string;
  readonly member: string;
  readonly name: string;
  readonly side: 'left' | 'right' | 'centre';
  readonly stances: readonly Stance[];
}

/** A bar that is moved: all of it, or one of its ends. */
export interface BarMove {
  readonly control: string;
  /** Which of the foot's stances. */
  readonly stance: number;
  readonly grip: 'whole' | 'from' | 'to';
  /** In frames; later is above 0. */
  readonly by: number;
  /** This foot alone, not the one of the other side with it. */
  readonly alone: boolean;
}

/** What moving a bar comes to: other settings of the gait that wrote it, keys moved round the cycle, or other stances. */
export type BarMoved =
  | { readonly kind: 'recipe'; readonly recipe: Recipe }
  | { readonly kind: 'shift'; readonly by: Readonly<Record<string, number>> }
  | { readonly kind: 'stances'; readonly stances: readonly Stance[] };

/** The feet of a clip's rig, in the order the rig has them; none for a rig without feet. */
export function footRows(shot: Shot, clip: Clip): FootRow[] {
  const member = shot.members.get(clip.rig);
  if (member?.kind !== 'rig') return [];
  const own = new Map(controlsOf(shot, clip.rig).map((c) => [c.shape.control, c]));
  return shot.rigs.at(member.shape).rig.feet.flatMap(({ control }) => {
    const foot = own.get(control);
    if (!foot) return [];
    const side = shot.rigs.control(foot.shape)?.side ?? 'centre';
    return [{ control, member: foot.id, name: foot.name, side, stances: clip.stances[control] ?? [] }];
  });
}

/** A stance as one round shows it, in frames from its beginning: in one piece, or in two where it goes through the seam. */
export const piecesOf = ({ from, to }: Stance, length: number): [from: number, to: number][] =>
  to <= length
    ? [[from, to]]
    : [
        [from, length],
        [0, to - length],
      ];

/** What moving a bar comes to. A gait that wrote the clip stays adjustable: its settings change, and not its keys behind its back. */
export function barMoved(shot: Shot, clip: Clip, move: BarMove): BarMoved {
  const { control, grip, by } = move;
  const recipe = shot.recipes.values().find((r) => r.kit === 'gait' && r.member === clip.rig);
  const share = (by / clip.length) * 100;
  if (recipe && grip === 'whole') {
    const legs = legOrder(shot, clip);
    const settings = { ...recipe.settings };
    for (const foot of move.alone ? [control] : pairOf(shot, clip, control)) {
      const fall = `fall${legs.indexOf(foot) + 1}`;
      settings[fall] = round(Number(settings[fall]) + share, 100);
    }
    return { kind: 'recipe', recipe: { ...recipe, settings } };
  }
  if (recipe) {
    const down = within('down', Number(recipe.settings.down) + (grip === 'to' ? share : -share));
    return { kind: 'recipe', recipe: { ...recipe, settings: { ...recipe.settings, down } } };
  }
  if (grip === 'whole') {
    const moved = move.alone || clip.halves === 'free' ? [control] : pairOf(shot, clip, control);
    const ids = controlsOf(shot, clip.rig).filter((c) => moved.includes(c.shape.control));
    return { kind: 'shift', by: Object.fromEntries(ids.map(({ id }) => [id, by])) };
  }
  const stances = (clip.stances[control] ?? []).map((stance, i) =>
    i === move.stance ? resized(stance, grip, by, clip.length) : stance,
  );
  return { kind: 'stances', stances };
}

/** A stance with one end moved: it begins within the round, and lasts a frame at least and all but one frame of it at most. */
function resized({ from, to }: Stance, end: 'from' | 'to', by: number, length: number): Stance {
  const begins = end === 'from' ? from + by : from;
  const ends = end === 'to' ? to + by : to;
  const start = round(begins, length);
  return { from: start, to: start + Math.min(length - 1, Math.max(1, ends - begins)) };
}

/** A value on a circle. */
const round = (value: number, whole: number) => ((value % whole) + whole) % whole;

/** A value of the gait, within what its dial lets through. */
function within(name: string, value: number): number {
  const dial = gait.fields.find((field) => field.name === name);
  return dial?.kind === 'number' ? Math.min(dial.max, Math.max(dial.min, value)) : value;
}

/** The feet in the order of the gait's settings: hind left, hind right, fore left, fore right. */
function legOrder(shot: Shot, clip: Clip): string[] {
  const member = shot.members.get(clip.rig);
  const anatomy = member?.kind === 'rig' ? anatomyOf(shot.rigs.at(member.shape)) : '';
  return typeof anatomy === 'string' ? [] : anatomy.legs.map((leg) => leg.control);
}

/** A foot and the one of the other side. */
function pairOf(shot: Shot, clip: Clip, control: string): string[] {
  const own = controlsOf(shot, clip.rig).find((c) => c.shape.control === control);
  const partner = own && shot.rigs.control(own.shape)?.partner;
  return partner ? [control, partner] : [control];
}
