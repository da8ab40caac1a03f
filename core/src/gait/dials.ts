/** What a gait is set by. Angles in degrees, sizes in per cent of the leg, times in frames or per cent. */
export interface Gait {
  /** Frames from one contact to the next. */
  readonly cadence: number;
  /** How far the body gets in a step. */
  readonly stride: number;
  /** How far apart the feet are, per cent of how they stand at rest. */
  readonly width: number;
  /** How high feet are lifted. */
  readonly lift: number;
  /** How long each foot is down, per cent of the cycle. */
  readonly down: number;
  /** When each foot touches down, per cent of the cycle: hind left, hind right, fore left, fore right. */
  readonly fall1: number;
  readonly fall2: number;
  readonly fall3: number;
  readonly fall4: number;
  /** Heel, frames until the foot is flat, when the heel lifts (per cent of the stance), ball and toe. */
  readonly strike: number;
  readonly flat: number;
  readonly heelOff: number;
  readonly push: number;
  readonly roll: number;
  readonly toeOut: number;
  /** The hips: up and down, aside, tilted and turned. */
  readonly bob: number;
  readonly sway: number;
  readonly tilt: number;
  readonly turn: number;
  /** The chest against the hips, and how many frames later. */
  readonly counter: number;
  readonly chestLag: number;
  readonly lean: number;
  readonly flex: number;
  readonly swing: number;
  readonly elbow: number;
  readonly apart: number;
  readonly armLag: number;
  /** The head: how steady, and how high it is held. */
  readonly steady: number;
  readonly chin: number;
  /** On four legs: how far the head goes down and ahead as a forefoot takes the weight. */
  readonly nod: number;
  readonly tail: number;
  readonly heavy: number;
  readonly spring: number;
  /** Below 0 the left foot is sore, above it the right one. */
  readonly limp: number;
}

/** A plain walk on two legs. */
export const plainWalk: Gait = {
  cadence: 12,
  stride: 76,
  width: 62,
  lift: 11,
  down: 60,
  fall1: 0,
  fall2: 50,
  fall3: 25,
  fall4: 75,
  strike: 20,
  flat: 2,
  heelOff: 48,
  push: 38,
  roll: 12,
  toeOut: 5,
  bob: 4,
  sway: 2.6,
  tilt: 5,
  turn: 9,
  counter: 10,
  chestLag: 2,
  lean: 3,
  flex: 6,
  swing: 30,
  elbow: 14,
  apart: 0,
  armLag: 2,
  steady: 80,
  chin: 0,
  nod: 0,
  tail: 20,
  heavy: 25,
  spring: 20,
  limp: 0,
};

/** Whole settings a walk can begin from, as what differs from a plain one. */
export const characters: Readonly<Record<string, { readonly label: string; readonly gait: Partial<Gait> }>> = {
  plain: { label: 'plain', gait: {} },
  heavy: {
    label: 'heavy',
    gait: {
      cadence: 15,
      stride: 70,
      width: 95,
      lift: 9,
      down: 64,
      bob: 6.5,
      sway: 5.5,
      tilt: 6,
      turn: 5,
      counter: 6,
      chestLag: 2,
      lean: 7,
      swing: 20,
      elbow: 24,
      apart: 7,
      armLag: 3,
      heavy: 85,
      spring: 5,
      strike: 14,
      push: 30,
    },
  },
  sneaking: {
    label: 'sneaking',
    gait: {
      cadence: 18,
      stride: 66,
      width: 75,
      lift: 20,
      down: 64,
      bob: 3,
      sway: 4,
      tilt: 5,
      turn: 4,
      counter: 5,
      lean: 22,
      swing: 12,
      elbow: 62,
      apart: 4,
      armLag: 4,
      chin: 18,
      steady: 92,
      heavy: 10,
      spring: 0,
      strike: 0,
      flat: 1,
      heelOff: 70,
      push: 34,
      roll: 4,
    },
  },
  brisk: {
    label: 'brisk',
    gait: {
      cadence: 8,
      stride: 84,
      width: 50,
      lift: 12,
      down: 57,
      bob: 4,
      sway: 1.6,
      tilt: 3.5,
      turn: 9,
      counter: 11,
      chestLag: 1,
      lean: 6,
      swing: 36,
      elbow: 46,
      armLag: 1,
      heavy: 15,
      spring: 35,
      strike: 25,
      push: 44,
    },
  },
  proud: {
    label: 'proud',
    gait: {
      cadence: 13,
      stride: 80,
      width: 55,
      lift: 15,
      down: 58,
      bob: 5,
      sway: 2,
      tilt: 3,
      turn: 8,
      counter: 10,
      chestLag: 2,
      lean: -6,
      swing: 32,
      elbow: 12,
      apart: 5,
      chin: -9,
      heavy: 15,
      spring: 55,
      strike: 24,
    },
  },
  weary: {
    label: 'weary',
    gait: {
      cadence: 18,
      stride: 52,
      width: 80,
      lift: 6,
      down: 68,
      bob: 3.6,
      sway: 4.2,
      tilt: 6,
      turn: 6,
      counter: 5,
      chestLag: 3,
      lean: 15,
      swing: 17,
      elbow: 15,
      apart: 1,
      armLag: 4,
      chin: 20,
      steady: 45,
      heavy: 75,
      spring: 0,
      strike: 8,
      flat: 2,
      heelOff: 66,
      push: 26,
      roll: 4,
    },
  },
};

/** A plain walk on four legs, as what differs from two. */
export const fourLegs: Partial<Gait> = {
  cadence: 14,
  stride: 52,
  width: 82,
  lift: 14,
  down: 64,
  push: 30,
  bob: 4.4,
  sway: 2,
  tilt: 4,
  turn: 7,
  counter: 6,
  flex: 11,
  chestLag: 0,
  lean: 0,
  steady: 55,
  nod: 5,
  tail: 26,
};

/** Footfalls with names, for four legs: when each foot touches down and how long it stays. */
export const patterns: Readonly<Record<string, { readonly label: string; readonly four: Partial<Gait> }>> = {
  walk: { label: 'walk', four: { fall1: 0, fall2: 50, fall3: 25, fall4: 75, down: 64 } },
  amble: { label: 'amble', four: { fall1: 0, fall2: 50, fall3: 12, fall4: 62, down: 58 } },
  trot: { label: 'trot', four: { fall1: 0, fall2: 50, fall3: 50, fall4: 0, down: 48 } },
  bound: {
    label: 'bound',
    four: {
      fall1: 0,
      fall2: 11,
      fall3: 48,
      fall4: 59,
      down: 25,
      // Two flights in a round: without a long stride and a back that bends there are none.
      cadence: 9,
      stride: 100,
      bob: 11,
      flex: 20,
      lift: 18,
      push: 40,
      steady: 80,
      nod: 3,
    },
  },
};
