export type Vector = readonly [number, number, number];

/** A place on the way of something thrown: where it is, how fast it comes and how fast it goes, value per frame. */
export interface Station {
  readonly frame: number;
  readonly place: Vector;
  readonly arrive: Vector;
  readonly leave: Vector;
}

/** What is thrown, and onto what. Lengths in metres, times in frames, `y` up. */
export interface Throw {
  readonly start: Vector;
  /** Metres per frame. */
  readonly speed: Vector;
  readonly frame: number;
  /** Metres per frame². */
  readonly gravity: number;
  /** Share of its speed into the ground that it has again out of it. */
  readonly liveliness: number;
  /** Share of its speed along the ground that a contact leaves it. */
  readonly keeps: number;
  /** How often it rebounds at most. */
  readonly bounces: number;
  /** Frames it rolls on for when it no longer bounces; 0 stops it there. */
  readonly rolls: number;
  /** Contacts on whole frames: flights are a little longer or shorter for it, gravity is the same in all. */
  readonly whole: boolean;
  /** Nothing goes on after this frame. */
  readonly end: number;
  /** Where it would lie at a place, on the highest ground below a height, and the ground's normal. */
  landing(x: number, z: number, below: number): { readonly y: number; readonly normal: Vector };
}

export interface Thrown {
  readonly stations: Station[];
  readonly contacts: number;
  /** The gravity of all its flights. */
  readonly gravity: number;
  /** The frame it comes to rest, or the last one it was followed to. */
  readonly last: number;
}

/** Flights shorter than this many frames are not worth a rebound. */
const LEAST_FLIGHT = 1.5;
const MOST_CONTACTS = 200;
/** A fall off an edge begins where the ground is this much lower. */
const DROP = 2e-3;
const STEP = 0.25;

/** Follows something that is let go, through all its flights and rolls, to rest: stations between which it is a parabola. */
export function thrown(how: Throw): Thrown {
  return new Flying(how).follow();
}

class Flying {
  readonly #how: Throw;
  #frame: number;
  #at: Vector;
  /** Its speed as it would be if no flight were brought to whole frames; what it loses is counted from this. */
  #speed: Vector;
  #gravity: number;
  #contacts = 0;
  /** Frames its last flight would have taken from level ground. */
  #lastFlight = Number.POSITIVE_INFINITY;
  #arrive: Vector = [0, 0, 0];
  readonly #stations: Station[] = [];

  constructor(how: Throw) {
    this.#how = how;
    this.#frame = how.frame;
    this.#at = how.start;
    this.#speed = how.speed;
    this.#gravity = how.gravity;
  }

  follow(): Thrown {
    const ground = this.#how.landing(this.#at[0], this.#at[2], this.#at[1] + 1e-3);
    if (this.#at[1] - ground.y > DROP) this.#fly(true);
    else this.#roll(ground.normal);
    const last = this.#stations.at(-1)?.frame ?? this.#frame;
    return { stations: this.#stations, contacts: this.#contacts, gravity: this.#gravity, last };
  }

  #station(leave: Vector): void {
    this.#stations.push({ frame: this.#frame, place: this.#at, arrive: this.#arrive, leave });
  }

  /** One flight, and what comes of it. */
  #fly(first: boolean): void {
    for (let opening = first; ; opening = false) {
      const free = this.#freeFlight();
      if (free === null || this.#contacts >= MOST_CONTACTS) {
        this.#station([0, 0, 0]);
        return;
      }
      const frames = this.#how.whole ? this.#wholeFrames(free, opening) : free;
      if (frames === null) {
        this.#speed = [this.#speed[0], 0, this.#speed[2]];
        this.#roll([0, 1, 0]);
        return;
      }
      const [x, z] = [this.#at[0] + this.#speed[0] * frames, this.#at[2] + this.#speed[2] * frames];
      const ground = this.#how.landing(x, z, this.#highest(frames));
      // The first fall begins at rest, so it is the gravity that gives way to whole frames, for this fall and all later ones.
      if (opening && Math.abs(this.#speed[1]) < 1e-12)
        this.#gravity = (2 * (this.#at[1] - ground.y)) / (frames * frames);
      const up = (ground.y - this.#at[1]) / frames + (this.#gravity * frames) / 2;
      this.#leaveFor([this.#speed[0], up, this.#speed[2]], frames);
      const fallen: Vector = [this.#speed[0], this.#speed[1] - this.#gravity * free, this.#speed[2]];
      this.#arrive = [this.#speed[0], up - this.#gravity * frames, this.#speed[2]];
      this.#frame += frames;
      this.#at = [x, ground.y, z];
      this.#lastFlight = (-2 * this.#arrive[1]) / this.#gravity;
      if (!this.#rebound(ground.normal, fallen)) {
        this.#roll(ground.normal);
        return;
      }
    }
  }

  /** Notes where a flight begins, and its top where that is a frame of its own. */
  #leaveFor(speed: Vector, frames: number): void {
    this.#station(speed);
    const top = speed[1] / this.#gravity;
    const t = this.#how.whole ? Math.round(top) : top;
    if (t < 0.75 || t > frames - 0.75) return;
    const there: Vector = [speed[0], speed[1] - this.#gravity * t, speed[2]];
    const place: Vector = [
      this.#at[0] + speed[0] * t,
      this.#at[1] + speed[1] * t - (this.#gravity * t * t) / 2,
      this.#at[2] + speed[2] * t,
    ];
    this.#stations.push({ frame: this.#frame + t, place, arrive: there, leave: there });
  }

  /** Throws it back from the ground; false where it stays. */
  #rebound(normal: Vector, fallen: Vector): boolean {
    this.#contacts++;
    const into = dot(fallen, normal);
    const along: Vector = [fallen[0] - into * normal[0], fallen[1] - into * normal[1], fallen[2] - into * normal[2]];
    const { liveliness, keeps, bounces } = this.#how;
    const out = -into * liveliness;
    this.#speed = [0, 1, 2].map((i) => keeps * along[i] + out * normal[i]) as unknown as Vector;
    const flight = (2 * out) / (this.#gravity * normal[1]);
    const least = this.#how.whole ? LEAST_FLIGHT : LEAST_FLIGHT / 3;
    if (this.#contacts <= bounces && flight >= least && this.#frame + flight < this.#how.end) return true;
    this.#speed = [keeps * along[0], keeps * along[1], keeps * along[2]];
    return false;
  }

  /** Frames until it meets the ground; null where it never does before the end. */
  #freeFlight(): number | null {
    const height = (t: number) => this.#at[1] + this.#speed[1] * t - (this.#gravity * t * t) / 2;
    const over = (t: number) => {
      const x = this.#at[0] + this.#speed[0] * t;
      const z = this.#at[2] + this.#speed[2] * t;
      return height(t) - this.#how.landing(x, z, Math.max(height(t - STEP), height(t)) + 1e-6).y;
    };
    const most = this.#how.end - this.#frame;
    for (let t = STEP; t <= most + STEP; t += STEP) {
      if (over(t) > 0) continue;
      let [low, high] = [t - STEP, t];
      for (let i = 0; i < 60; i++) {
        const middle = (low + high) / 2;
        if (over(middle) > 0) low = middle;
        else high = middle;
      }
      return high;
    }
    return null;
  }

  /**
   * The whole number of frames nearest to a flight's that keeps it out of the ground on the way; null where a bounce on level
   * ground would have no frames left to be shorter by.
   */
  #wholeFrames(free: number, opening: boolean): number | null {
    const level = (t: number) => {
      const [x, z] = [this.#at[0] + this.#speed[0] * t, this.#at[2] + this.#speed[2] * t];
      return Math.abs(this.#how.landing(x, z, this.#highest(t)).y - this.#at[1]) < 1e-6;
    };
    const nearest = Math.max(1, Math.round(free));
    // On level ground each bounce is shorter than the last, if only by a frame.
    const most = !opening && level(nearest) ? Math.round(this.#lastFlight) - 1 : Number.POSITIVE_INFINITY;
    if (most < 2) return null;
    const tries = [nearest, nearest + 1, nearest - 1, nearest + 2].filter((t) => t >= 1);
    const good = tries.find((t) => t <= most && this.#clear(t));
    return good ?? Math.min(nearest, most);
  }

  /** Whether a flight of so many frames passes over all that lies between. */
  #clear(frames: number): boolean {
    const end = this.#how.landing(
      this.#at[0] + this.#speed[0] * frames,
      this.#at[2] + this.#speed[2] * frames,
      this.#highest(frames),
    );
    const up = (end.y - this.#at[1]) / frames + (this.#gravity * frames) / 2;
    for (let t = STEP; t < frames - STEP / 2; t += STEP) {
      const y = this.#at[1] + up * t - (this.#gravity * t * t) / 2;
      const [x, z] = [this.#at[0] + this.#speed[0] * t, this.#at[2] + this.#speed[2] * t];
      if (y < this.#how.landing(x, z, this.#highest(t)).y - 1e-6) return false;
    }
    return true;
  }

  /** As high as the flight can have been. */
  #highest(frames: number): number {
    const top = Math.min(Math.max(this.#speed[1] / this.#gravity, 0), frames);
    return this.#at[1] + this.#speed[1] * top - (this.#gravity * top * top) / 2 + 1e-3;
  }

  /** Rolls along the ground until it stops, or until the ground falls away. */
  #roll(ground: Vector): void {
    let normal = ground;
    const begun = Math.hypot(...this.#speed);
    // What slows it: on level ground it stops after the frames asked for.
    const drag = this.#how.rolls > 0 ? begun / this.#how.rolls : Number.POSITIVE_INFINITY;
    for (let guard = 0; guard < 50; guard++) {
      const { heading, pull } = downhill(normal, this.#speed, this.#gravity);
      const speed = Math.max(0, dot(this.#speed, heading));
      const gain = pull - drag;
      const rest = speed > 0 && gain < 0 && Number.isFinite(gain) ? -speed / gain : Number.POSITIVE_INFINITY;
      const left = this.#how.end - this.#frame;
      if (!Number.isFinite(drag) || (speed <= 1e-9 && gain <= 0) || left <= 0) {
        this.#station([0, 0, 0]);
        return;
      }
      const until = Math.min(this.#whole(rest), left);
      // Brought to whole frames, it covers what it would have covered at an even loss from the same speed.
      const even = rest <= left ? -speed / until : gain;
      const edge = this.#edge(heading, speed, even, until);
      const gone = (t: number) => speed * t + (even * t * t) / 2;
      // Off an edge it goes on to the next whole frame; into a corner it must come exactly, a little slower or faster.
      const off = edge !== null && this.#fallsOff(heading, gone(edge));
      const frames = edge === null ? until : off && this.#how.whole ? Math.ceil(edge - 1e-9) || 1 : this.#whole(edge);
      const distance = gone(edge === null || off ? frames : edge);
      const rate = (2 * (distance - speed * frames)) / (frames * frames);
      this.#station(scaled(heading, speed));
      this.#arrive = scaled(heading, Math.max(0, speed + rate * frames));
      this.#frame += frames;
      this.#at = [
        this.#at[0] + heading[0] * distance,
        this.#at[1] + heading[1] * distance,
        this.#at[2] + heading[2] * distance,
      ];
      if (edge === null) {
        this.#station([0, 0, 0]);
        return;
      }
      const next = this.#how.landing(
        this.#at[0] + heading[0] * 1e-4,
        this.#at[2] + heading[2] * 1e-4,
        this.#at[1] + DROP,
      );
      this.#speed = this.#arrive;
      if (this.#at[1] - next.y > DROP) {
        this.#lastFlight = Number.POSITIVE_INFINITY;
        this.#fly(this.#contacts === 0);
        return;
      }
      // Round the corner it goes on as fast as before.
      const along = dot(this.#speed, next.normal);
      const turned: Vector = [0, 1, 2].map((i) => this.#speed[i] - along * next.normal[i]) as unknown as Vector;
      const length = Math.hypot(...turned) || 1;
      this.#speed = scaled(turned, Math.hypot(...this.#speed) / length);
      normal = next.normal;
    }
    this.#station([0, 0, 0]);
  }

  /** Whether the ground is lower after so much more of the way. */
  #fallsOff(heading: Vector, distance: number): boolean {
    const [x, y, z] = [0, 1, 2].map((i) => this.#at[i] + heading[i] * (distance + 1e-3));
    return y - this.#how.landing(x, z, y + DROP).y > DROP;
  }

  #whole(frames: number): number {
    return this.#how.whole ? Math.max(1, Math.round(frames)) : frames;
  }

  /** When the ground it rolls on ends, in frames from now; null where it does not before `until`. */
  #edge(heading: Vector, speed: number, gain: number, until: number): number | null {
    const off = (t: number) => {
      const distance = speed * t + (gain * t * t) / 2;
      const [x, y, z] = [0, 1, 2].map((i) => this.#at[i] + heading[i] * distance);
      return Math.abs(this.#how.landing(x, z, y + DROP).y - y) > 1e-5;
    };
    for (let t = STEP; t <= until; t += STEP) {
      if (!off(t)) continue;
      let [low, high] = [t - STEP, t];
      for (let i = 0; i < 60; i++) {
        const middle = (low + high) / 2;
        if (off(middle)) high = middle;
        else low = middle;
      }
      return high;
    }
    return null;
  }
}

const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const scaled = (v: Vector, k: number): Vector => [v[0] * k, v[1] * k, v[2] * k];

/**
 * Which way it rolls on a slope and what pulls it on, per frame². A solid ball that rolls without slip gains five sevenths of
 * what one that slides would.
 */
function downhill(normal: Vector, speed: Vector, gravity: number): { heading: Vector; pull: number } {
  const moving = Math.hypot(...speed);
  const fall: Vector = [normal[0] * normal[1], normal[1] * normal[1] - 1, normal[2] * normal[1]];
  const steep = Math.hypot(...fall);
  const heading =
    moving > 1e-9 ? scaled(speed, 1 / moving) : steep > 1e-9 ? scaled(fall, 1 / steep) : ([1, 0, 0] as const);
  return { heading, pull: (5 / 7) * gravity * dot(fall, heading) };
}
