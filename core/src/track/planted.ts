import type { ControlMember } from '../document/casting.ts';
import type { CourseReader, Spot } from './course.ts';
import type { Played } from './played.ts';
import { easing } from './span-time.ts';

/** Frames of the shot. */
interface Span {
  readonly from: number;
  readonly to: number;
}

/** What is asked of an arrangement to hold its feet. */
interface Asked {
  readonly layers: readonly Played[];
  readonly controls: readonly ControlMember[];
  /** Stretches on which several spans of the whole body meet. */
  readonly blended: readonly Span[];
  /** What a clip has in a channel of a control, at one of its frames. */
  read(layer: Played, control: ControlMember, channel: string, clipFrame: number): number;
  /** Where the body has got to. */
  readonly course: CourseReader;
  /** Where a control is for the body when it is not moved. */
  place(control: ControlMember): Spot;
}

/** Frames of a clip, from its beginning, in which it has a foot down: clips that repeat have them again in every round. */
interface Down {
  readonly layer: Played;
  readonly low: number;
  readonly high: number;
  /** From which frame of the shot on this span has the say. */
  readonly from: number;
}

/** A foot that is down: from when to when, and as which spans have it down. */
interface Run extends Span {
  readonly parts: readonly Down[];
}

/** A run with the place of the stage on which it stands, and which way the body faces that stands so there. */
interface Stood extends Run {
  readonly spot: Spot;
  readonly faces: number;
}

/** How much further than its clips a foot may be from the body, metres. */
const SLACK = 1e-3;

/** How often a stretch is halved: one of a frame is a millionth of it then. */
const HALVED = 20;

/** The last place between two up to which something holds that holds at the first and then no more. */
function lastWhere(from: number, to: number, holds: (at: number) => boolean): number {
  let [low, high] = [from, to];
  for (let i = 0; i < HALVED; i++) {
    const middle = (low + high) / 2;
    if (holds(middle)) low = middle;
    else high = middle;
  }
  return low;
}

/** How finely runs are looked for, frames. */
const STEP = 0.25;
/** A foot that is down for less only brushes the ground. */
const SHORTEST_RUN = 1.5;
/** A foot does not get to another place in less. */
const SHORTEST_SWING = 4;
/** Over how many frames to either side a foot that is down goes over from the roll of one clip to that of another. */
const ROLL_OVER = 4;

/**
 * A foot where spans go over into each other. While it is down it does what the clip that has the say does with a foot that is down, on one place of
 * the stage. While it swings it does what that clip's swing does, from the one place to the next, as long as there is time for it. So nothing that is
 * mixed of a foot that stands and one that swings ever touches the ground.
 */
export class Planted {
  readonly control: string;
  /** Stretches of the shot in which the foot goes by this. */
  readonly regions: readonly Span[];
  readonly #member: ControlMember;
  readonly #runs: readonly Stood[];
  readonly #asked: Asked;
  readonly #place: Spot;
  /** Swings by the run they lead to, and what they lack. */
  readonly #swings = new Map<Stood, Swing | null>();
  readonly #lack = new Map<Stood, Map<string, Lack>>();

  constructor(member: ControlMember, runs: readonly Run[], regions: readonly Span[], asked: Asked) {
    this.control = member.id;
    this.regions = regions;
    this.#member = member;
    this.#asked = asked;
    this.#place = asked.place(member);
    this.#runs = runs.map((run) => this.#inReach(this.#stood(run)));
  }

  /** Whether it goes by this at a frame. */
  covers(frame: number): boolean {
    return this.regions.some(({ from, to }) => frame >= from && frame <= to);
  }

  /** Frames on which the foot comes down or leaves the ground. */
  get turns(): number[] {
    return this.#runs.flatMap(({ from, to }) => [from, to]);
  }

  /** What a channel of the foot's control comes to. */
  value(channel: string, frame: number): number {
    const i = this.#runs.findIndex((run) => frame <= run.to);
    const next = this.#runs[i < 0 ? this.#runs.length - 1 : i];
    if (i <= 0 || frame >= next.from)
      return this.#standing(next, channel, Math.min(Math.max(frame, next.from), next.to));
    return this.#swinging(this.#runs[i - 1], next, channel, frame);
  }

  #own({ layer }: Pick<Down, 'layer'>, channel: string, at: number): number {
    return this.#asked.read(layer, this.#member, channel, layer.clip.first + at);
  }

  /** Where a clip has the foot along the way, from where the clip's body set out. */
  #along(part: Pick<Down, 'layer'>, at: number): number {
    return this.#own(part, 'move.z', at) + rateOf(part.layer) * at;
  }

  /** A foot that came down before spans met stays where it was; one that leaves after they have met stands where it is to be then. */
  #stood(run: Run): Stood {
    const { blended } = this.#asked;
    const isMet = (frame: number) => blended.some(({ from, to }) => frame > from && frame < to);
    const ref = !isMet(run.from) ? run.from : !isMet(run.to) ? run.to : (run.from + run.to) / 2;
    const part = run.parts.findLast((p) => p.from <= ref) ?? run.parts[0];
    const at = within(part, ref);
    const { course } = this.#asked;
    const own = this.#placed(this.#own(part, 'move.x', at), this.#own(part, 'move.z', at));
    return { ...run, spot: course.toStage(ref, own), faces: course.turn(ref) };
  }

  /** A foot leaves the ground where it has come as far behind the body as its clips let it get there, and comes down no further ahead. */
  #inReach(run: Stood): Stood {
    const { course } = this.#asked;
    const isIn = (frame: number) => {
      const at = course.toBody(frame, run.spot)[1] - this.#place[1];
      const { behind, ahead } = this.#limits(frame);
      return { before: at <= ahead + SLACK, after: at >= behind - SLACK };
    };
    let { from, to } = run;
    if (!isIn(to).after) to = lastWhere(from, to, (f) => isIn(f).after);
    if (!isIn(from).before) from = to - lastWhere(0, to - from, (d) => isIn(to - d).before);
    return to - from >= SHORTEST_RUN ? { ...run, from, to } : run;
  }

  /** How far behind and ahead of the body the foot is on the ground at most, as the spans that play there have it. */
  #limits(frame: number): { behind: number; ahead: number } {
    let [behind, ahead] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
    for (const layer of this.#asked.layers) {
      const stances = layer.clip.stances[this.#member.shape.control] ?? [];
      if (!layer.plays(frame) || !layer.carries || stances.length === 0) continue;
      const back = Math.min(...stances.map((s) => this.#own({ layer }, 'move.z', s.to)));
      const front = Math.max(...stances.map((s) => this.#own({ layer }, 'move.z', s.from)));
      // Who only stands sets no limit.
      const weight = Number.isFinite(behind) ? layer.weight(frame) : 1;
      behind = weight < 1 ? behind + (back - behind) * weight : back;
      ahead = weight < 1 ? ahead + (front - ahead) * weight : front;
    }
    return { behind, ahead };
  }

  #standing(run: Stood, channel: string, frame: number): number {
    let value = this.#down(run, run.parts[0], channel, frame);
    for (const part of run.parts.slice(1)) {
      const reach = Math.min(ROLL_OVER, part.from - run.from, run.to - part.from);
      const share = reach > 1e-6 ? (frame - part.from + reach) / (2 * reach) : frame >= part.from ? 1 : 0;
      if (share > 0) value += (this.#down(run, part, channel, frame) - value) * easing(share, 'soft');
    }
    return value;
  }

  /** As one span has it down. What goes over the ground as it rolls goes so from the place on which it stands. */
  #down(run: Stood, part: Down, channel: string, frame: number): number {
    const at = within(part, frame);
    const flat = Number.isFinite(part.low) ? (part.low + part.high) / 2 : at;
    if (channel === 'turn.y') return this.#own(part, channel, at) + run.faces - this.#asked.course.turn(frame);
    if (channel !== 'move.x' && channel !== 'move.z') return this.#own(part, channel, at);
    // How it rolls, from where it is flat, as the body stands there.
    const x = this.#own(part, 'move.x', at) - this.#own(part, 'move.x', flat);
    const z = this.#along(part, at) - this.#along(part, flat);
    return this.#seen(run, frame, x, z)[channel === 'move.x' ? 0 : 1];
  }

  /** Where for the body a foot is that stands, rolled by so much from its place. */
  #seen({ spot, faces }: Stood, frame: number, x: number, z: number): Spot {
    const [c, s] = faces === 0 ? [1, 0] : [Math.cos(faces), Math.sin(faces)];
    return this.#moved(this.#asked.course.toBody(frame, [spot[0] + x * c + z * s, spot[1] - x * s + z * c]));
  }

  /** Where for the body the foot is that is moved by so much, and the other way about. */
  #placed(x: number, z: number): Spot {
    return [this.#place[0] + x, this.#place[1] + z];
  }
  #moved([x, z]: Spot): Spot {
    return [x - this.#place[0], z - this.#place[1]];
  }

  /** A channel of a foot that stays where it is at a frame, while the body goes on to another. */
  #staying(run: Stood, channel: string, at: number, frame: number): number {
    const { course } = this.#asked;
    if (channel === 'turn.y') return this.#standing(run, channel, at) + course.turn(at) - course.turn(frame);
    const here = this.#placed(this.#standing(run, 'move.x', at), this.#standing(run, 'move.z', at));
    return this.#moved(course.toBody(frame, course.toStage(at, here)))[channel === 'move.x' ? 0 : 1];
  }

  /** As the swing's clip has it, with what that lacks of the two places added: in such a way that along the ground it leaves and comes down at rest. */
  #swinging(before: Stood, next: Stood, channel: string, frame: number): number {
    const share = (frame - before.to) / (next.from - before.to);
    const { off, slope, swing } = this.#lacks(before, next, channel);
    const more =
      off[0] * staying(share) + off[1] * staying(1 - share) + slope[0] * leaving(share) - slope[1] * leaving(1 - share);
    return swing ? this.#own(swing, channel, swing.at(share)) + more : more;
  }

  /** What the swing of a foot lacks in a channel, at its beginning and its end: how much, and how fast that changes. */
  #lacks(before: Stood, next: Stood, channel: string): Lack {
    const known = this.#lack.get(next) ?? new Map<string, Lack>();
    this.#lack.set(next, known);
    const there = known.get(channel);
    if (there) return there;
    const swing = this.#swingOf(before, next);
    const own = (share: number) => (swing ? this.#own(swing, channel, swing.at(share)) : 0);
    const off = [
      this.#standing(before, channel, before.to) - own(0),
      this.#standing(next, channel, next.from) - own(1),
    ] as const;
    const isCarried = channel === 'move.z' || (this.#asked.course.turns && IN_PLACE.has(channel));
    const slope = isCarried ? this.#restSlopes(before, next, channel, own) : ([0, 0] as const);
    const made: Lack = { off, slope, swing };
    known.set(channel, made);
    return made;
  }

  /** How fast what is added must change at both ends for the foot to be at rest on the ground: the body goes on, and so does the clip's foot. */
  #restSlopes(before: Stood, next: Stood, channel: string, own: (share: number) => number): readonly [number, number] {
    const long = next.from - before.to;
    const e = 1e-3;
    const left = (frame: number) => this.#staying(before, channel, before.to, frame);
    const come = (frame: number) => this.#staying(next, channel, next.from, frame);
    const leaves = (left(before.to + e * long) - left(before.to)) / e - (own(e) - own(0)) / e;
    const comes = (come(next.from) - come(next.from - e * long)) / e - (own(1) - own(1 - e)) / e;
    return [leaves, comes];
  }

  /** The swing that a foot does between two runs: that of the span that has the say in the middle, or of a neighbour where it only stands. */
  #swingOf(before: Stood, next: Stood): Swing | null {
    const known = this.#swings.get(next);
    if (known !== undefined) return known;
    const middle = (before.to + next.from) / 2;
    const ruled = ruling(this.#asked.layers, middle);
    let found: Swing | null = null;
    for (const layer of [ruled, next.parts[0].layer, before.parts[before.parts.length - 1].layer]) {
      const swing = layer && swingAt(layer, this.#member.shape.control, layer.clipFrame(middle) - layer.clip.first);
      if (layer && swing && !found) found = swingIn(layer, swing.low, swing.high, before.to, next.from);
    }
    this.#swings.set(next, found);
    return found;
  }
}

/** What says where a foot is on the ground, and which way it points. */
const IN_PLACE: ReadonlySet<string> = new Set(['move.x', 'move.z', 'turn.y']);

/** For how much of a swing what is added at an end of it lasts: where the foot is furthest from the body, shortly before it comes down, nothing of the other end is left. */
const LASTS = 0.6;

/** From 1 to 0, at rest and without a push at both ends: what is added goes while the foot is in the air. */
function staying(share: number): number {
  const t = Math.min(1, share / LASTS);
  return 1 - t * t * t * (10 - 15 * t + 6 * t * t);
}

/** Begins with the slope 1 and ends in nothing, without a push at either end. */
function leaving(share: number): number {
  const t = Math.min(1, share / LASTS);
  return LASTS * (t + t * t * t * (-6 + 8 * t - 3 * t * t));
}

/** What is added to the swing of a clip so that it goes from one place to another: at both ends, and how fast that changes there, a swing. */
interface Lack {
  readonly off: readonly [number, number];
  readonly slope: readonly [number, number];
  readonly swing: Swing | null;
}

/** A swing of a clip, done between two runs. */
interface Swing {
  readonly layer: Played;
  /** The frame of the clip that is played at a share of the time there is: as fast as in the clip at both ends, so that it leaves and lands as there. */
  at(share: number): number;
}

function swingIn(layer: Played, low: number, high: number, from: number, to: number): Swing {
  const long = high - low;
  // No faster at the ends than that it still goes on in between, and where there is little time as fast as all of it.
  const speed = (frame: number) => Math.min(2.5 * long, Math.max(long, layer.speed(frame) * (to - from)));
  const [out, into] = [speed(from), speed(to)];
  return {
    layer,
    at(t) {
      const u = 1 - t;
      return low + t * t * (1 + 2 * u) * long + t * u * (u * out - t * into);
    },
  };
}

/** How many rounds to either side of a frame are looked at where only that frame is wanted: a foot goes from one place to the next in less than one. */
const NEAR_ROUNDS = 1.25;

/**
 * The feet that are to be held, and where.
 * @param near a frame, where nothing but what is near it is wanted
 */
export function plantedFeet(all: Asked, near?: number): Planted[] {
  const { layers, controls } = all;
  const round = Math.max(0, ...layers.map(({ clip, span }) => clip.length / span.speed));
  const isNear = (by: number) => (span: Span) => near === undefined || (span.from - by < near && span.to + by > near);
  // A stretch near one that is near may hang together with it.
  const blended = all.blended.filter(isNear(NEAR_ROUNDS * round));
  if (!blended.some(isNear(round))) return [];
  const asked = { ...all, blended };
  const names = new Set(layers.flatMap((l) => Object.keys(l.clip.stances)));
  const whole = beyond(layers, round, near === undefined ? null : blended);
  const rules = rulesOn(layers, whole);
  const feet = [...names].flatMap((name): Foot[] => {
    const member = controls.find((c) => c.shape.control === name);
    const runs = apart(runsOf(layers, name, whole, rules));
    return member && runs.length > 0 ? [{ member, runs }] : [];
  });
  steppedTo(feet, asked);
  return feet.map(({ member, runs }) => new Planted(member, runs, regionsOf(runs, blended), asked));
}

/**
 * All frames of an arrangement, and a round more on both sides: a foot that is in the air at an end of it is on its way from somewhere, and to somewhere.
 * @param only the stretches round which alone it is looked
 */
function beyond(layers: readonly Played[], round: number, only: readonly Span[] | null): Span {
  const spans = only ?? layers.map((l) => ({ from: l.span.from, to: l.end }));
  const more = only ? NEAR_ROUNDS * round : round;
  // On the same places whatever is wanted: what is found must be the same.
  const first = Math.min(...layers.map((l) => l.span.from)) - Math.ceil(round);
  const last = Math.max(...layers.map((l) => l.end)) + Math.ceil(round);
  const [from, to] = [Math.min(...spans.map((s) => s.from)), Math.max(...spans.map((s) => s.to))];
  return { from: Math.max(first, Math.floor(from - more)), to: Math.min(last, Math.ceil(to + more)) };
}

/** A foot, and when it is down. */
interface Foot {
  readonly member: ControlMember;
  runs: readonly Run[];
}

/** How far a foot may be from where it is to stand without a step of its own, metres. */
const NEAR = 0.01;

/**
 * Where a body comes to stand, feet that are down then are where the walk has put them. One after another they step to where they are to stand: the
 * one first that has stood longest.
 */
function steppedTo(feet: readonly Foot[], asked: Asked): void {
  const stops = feet
    .flatMap((foot) =>
      foot.runs.flatMap((run, i) => {
        const still = run.parts.findIndex((p, k) => k > 0 && !Number.isFinite(p.low));
        const [walked, stands] = [run.parts[still - 1], run.parts[still]];
        return stands && Number.isFinite(walked.low) && isFar(foot.member, run, walked, stands, asked)
          ? [{ foot, i, run, walked, stands, still }]
          : [];
      }),
    )
    .sort((a, b) => a.run.from - b.run.from);
  stops.forEach(({ foot, i, run, walked, stands, still }, k) => {
    const swing = swingAt(walked.layer, foot.member.shape.control, walked.high);
    if (!swing) return;
    const long = Math.max(SHORTEST_SWING, (swing.high - swing.low) / walked.layer.span.speed);
    const off = stands.from + k * (feet.length > 2 ? long / 2 : long);
    if (off + long + SHORTEST_RUN > run.to) return;
    const walk = { from: run.from, to: off, parts: run.parts.slice(0, still) };
    const stand = { from: off + long, to: run.to, parts: run.parts.slice(still) };
    foot.runs = foot.runs.toSpliced(i, 1, walk, stand);
  });
}

/** Whether a foot stands elsewhere than it is to stand. */
function isFar(member: ControlMember, run: Run, walked: Down, stands: Down, asked: Asked): boolean {
  const { read, course } = asked;
  const rest = asked.place(member);
  const place = ({ layer, low, high }: Down, frame: number) => {
    const at = within({ layer, low, high, from: 0 }, frame);
    const own = (channel: string) => read(layer, member, channel, layer.clip.first + at);
    return course.toStage(frame, [rest[0] + own('move.x'), rest[1] + own('move.z')]);
  };
  const [[x, z], [u, w]] = [place(walked, run.from), place(stands, run.to)];
  return Math.hypot(x - u, z - w) > NEAR;
}

/** Stretches in which a foot is not simply as a clip has it: from where it last left the ground before spans meet to where it next comes down after. */
function regionsOf(runs: readonly Run[], blended: readonly Span[]): Span[] {
  const out: { from: number; to: number }[] = [];
  for (const window of blended) {
    const from = runs.findLast((r) => r.to <= window.from)?.to ?? runs[0].from;
    const to = runs.find((r) => r.from >= window.to)?.from ?? runs[runs.length - 1].to;
    const last = out[out.length - 1];
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else if (to > from) out.push({ from, to });
  }
  return out;
}

/** Who has the say, and where its clip is, on places a step apart: the same for all feet. */
type Rules = readonly ({ readonly layer: Played; readonly at: number } | null)[];

function rulesOn(layers: readonly Played[], { from, to }: Span): Rules {
  return Array.from({ length: Math.ceil((to - from) / STEP) }, (_, i) => {
    const layer = ruling(layers, from + i * STEP);
    return layer && { layer, at: layer.clipFrame(from + i * STEP) - layer.clip.first };
  });
}

/** When a foot is down, by the span that has the say at each moment. */
function runsOf(layers: readonly Played[], foot: string, { from, to }: Span, rules: Rules): Run[] {
  const out: { from: number; to: number; parts: Down[] }[] = [];
  const downIn = (frame: number, layer: Played, at: number): Down | null => {
    const down = downAt(layer, foot, at);
    return down && { layer, low: down.low, high: down.high, from: frame };
  };
  const downNow = (frame: number): Down | null => {
    const layer = ruling(layers, frame);
    return layer && downIn(frame, layer, layer.clipFrame(frame) - layer.clip.first);
  };
  let run: { from: number; to: number; parts: Down[] } | null = null;
  for (const [i, rule] of rules.entries()) {
    const frame = from + i * STEP;
    const part = rule && downIn(frame, rule.layer, rule.at);
    const before = frame - STEP;
    if (!part) {
      if (run) run.to = lastWhere(before, frame, (f) => downNow(f) !== null);
      run = null;
      continue;
    }
    if (!run) {
      const begun = frame > from ? frame - lastWhere(0, STEP, (d) => downNow(frame - d) !== null) : frame;
      run = { from: begun, to: frame + STEP, parts: [part] };
      out.push(run);
      continue;
    }
    run.to = Math.min(to, frame + STEP);
    const last = run.parts[run.parts.length - 1];
    if (last.layer === part.layer && last.low === part.low) continue;
    const same = (f: number) => {
      const now = downNow(f);
      return now?.layer === last.layer && now.low === last.low;
    };
    run.parts.push({ ...part, from: lastWhere(before, frame, same) });
  }
  return out;
}

/** Runs without those that only brush the ground, and with time enough between them to get from one to the next. */
function apart(runs: readonly Run[]): Run[] {
  const out: Run[] = [];
  for (const run of runs.filter((r) => r.to - r.from >= SHORTEST_RUN)) {
    const before = out[out.length - 1];
    const lacks = before ? SHORTEST_SWING - (run.from - before.to) : 0;
    const half = lacks / 2;
    if (!before || lacks <= 0) out.push(run);
    else if (before.to - before.from > half + SHORTEST_RUN && run.to - run.from > half + SHORTEST_RUN) {
      out[out.length - 1] = { ...before, to: before.to - half };
      out.push({ ...run, from: run.from + half });
    } else out[out.length - 1] = { from: before.from, to: run.to, parts: [...before.parts, ...run.parts] };
  }
  return out;
}

/** The span of the whole body that has the say: the topmost that is more than half there. Before the first and after the last one that one goes on. */
function ruling(layers: readonly Played[], frame: number): Played | null {
  let best: Played | null = null;
  let [first, last]: [Played | null, Played | null] = [null, null];
  for (const layer of layers) {
    if (!layer.carries) continue;
    if (!first || layer.span.from < first.span.from) first = layer;
    if (!last || layer.end > last.end) last = layer;
    if (!layer.plays(frame)) continue;
    if (!best || layer.weight(frame) >= 0.5) best = layer;
  }
  if (best || !first || !last) return best;
  return frame < first.span.from ? first : frame >= last.end ? last : null;
}

/** Frames of a clip to a metre, where it gets on. */
const rateOf = ({ clip }: Played): number => (clip.travelling ? clip.travel / clip.length : 0);

const within = ({ layer, low, high }: Down, frame: number): number =>
  Math.min(high, Math.max(low, layer.clipFrame(frame) - layer.clip.first));

/** Around which frame of its clip a foot is down; null where it is not. Who says nothing of a foot and gets nowhere stands on it. */
function downAt({ clip }: Played, foot: string, at: number): { low: number; high: number } | null {
  const stances = clip.stances[foot] ?? [];
  if (stances.length === 0)
    return clip.travel === 0 ? { low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY } : null;
  for (const { from, to } of stances) {
    const round = clip.cycles ? Math.floor((at - from) / clip.length) * clip.length : 0;
    if (at >= from + round && at < to + round) return { low: from + round, high: to + round };
  }
  return null;
}

/** The swing of a clip's foot that is nearest to one of its frames; null where it has none. */
function swingAt({ clip }: Played, foot: string, at: number): { low: number; high: number } | null {
  const stances = [...(clip.stances[foot] ?? [])].sort((a, b) => a.from - b.from);
  let best: { low: number; high: number } | null = null;
  stances.forEach(({ to }, i) => {
    const last = i === stances.length - 1;
    if (last && !clip.cycles) return;
    const next = last ? stances[0].from + clip.length : stances[i + 1].from;
    if (next <= to) return;
    const round = clip.cycles ? Math.round((at - (to + next) / 2) / clip.length) * clip.length : 0;
    const own = { low: to + round, high: next + round };
    const far = (s: { low: number; high: number }) => Math.abs((s.low + s.high) / 2 - at);
    if (!best || far(own) < far(best)) best = own;
  });
  return best;
}
