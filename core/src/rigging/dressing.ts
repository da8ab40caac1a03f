import { mirrored, type Vector } from '../pose/vectors.ts';
import type { RigDraft, RigJoint } from '../rig/definition.ts';
import { type Build, type BuildJoint, heights, jointOf, sideOfPlace, twinsOf } from './build.ts';
import { Figure } from './figure.ts';

type Control = RigDraft['controls'][number];
type Dial = NonNullable<Control['dials']>[number];
type By = RigJoint['by'];

const DEGREES = Math.PI / 180;

/** A dial without a unit, from 0 to 1 unless told otherwise. */
export const dial = (id: string, label: string, more: Partial<Dial> = {}): Dial => ({
  id,
  label,
  min: 0,
  max: 1,
  ...more,
});

const angle = (id: string, min: number, max: number): Dial =>
  dial(id, id, { unit: '°', min: min * DEGREES, max: max * DEGREES });

/** The dials every limb has, and every foot. */
export const limbDials: readonly Dial[] = [
  dial('reach', 'reach', { initial: 1, everyday: false }),
  dial('soft', 'soft', { initial: 0.005, max: 0.2, everyday: false }),
  dial('stretch', 'stretch', { everyday: false }),
];
export const footDials: readonly Dial[] = [
  angle('heel', -10, 70),
  angle('ball', -20, 80),
  angle('toe', -10, 80),
  angle('bank', -40, 40),
];

/** A place on a side, and what marks what belongs to it. */
export interface BodySide {
  readonly side: 'left' | 'right' | 'centre';
  /** ' L', ' R' or nothing, as names have it; and as ids do. */
  readonly mark: '' | 'L' | 'R';
  /** 1 where out is towards +x. */
  readonly out: 1 | -1;
}

export function sideOf(place: Vector): BodySide {
  const side = sideOfPlace(place);
  if (side === 0) return { side: 'centre', mark: '', out: 1 };
  return side > 0 ? { side: 'left', mark: 'L', out: 1 } : { side: 'right', mark: 'R', out: -1 };
}

/** Collects controls and ties of a rig while its parts are dressed. */
export class Dressing {
  readonly build: Build;
  readonly figure: Figure;
  readonly partners: ReadonlyMap<string, string>;
  /** How high the body is, metres. */
  readonly height: number;
  readonly controls: Control[] = [];
  readonly limbs: NonNullable<RigDraft['limbs']> = [];
  readonly feet: NonNullable<RigDraft['feet']> = [];
  readonly spines: NonNullable<RigDraft['spines']> = [];
  readonly looks: NonNullable<RigDraft['looks']> = [];
  readonly sets: NonNullable<RigDraft['sets']> = [];
  /** What moves each joint. A joint that is not named moves with what a limb or spine says; null is for those. */
  readonly by = new Map<string, By | null>();

  constructor(build: Build) {
    this.build = build;
    this.figure = new Figure(build);
    this.partners = twinsOf(build.joints);
    const [low, high] = heights(build);
    this.height = Math.max(1e-3, high - low);
  }

  joint(id: string): BuildJoint {
    return jointOf(this.build, id);
  }

  has(control: string): boolean {
    return this.controls.some((c) => c.id === control);
  }

  /**
   * A control, whose id and name get the mark of their side. The right one of two stands in the left one's mirror image exactly; its
   * counterpart is found when all are there.
   */
  control(side: BodySide, control: Omit<Control, 'side' | 'partner'>): string {
    const id = free(`${control.id}${side.mark}`, (taken) => this.has(taken));
    const name = side.mark === '' ? control.name : `${control.name} ${side.mark}`;
    this.controls.push({ ...control, id, name, side: side.side });
    return id;
  }

  /** A control that a joint goes with, carried by the joint before it. */
  own(id: string, more: Partial<Control> = {}): string {
    const joint = this.joint(id);
    const control = free(id, (taken) => this.has(taken));
    const girth = this.figure.girth(id);
    this.controls.push({
      id: control,
      name: joint.name,
      side: sideOf(joint.place).side,
      form: 'ring',
      reach: girth,
      place: [...joint.place],
      in: joint.parent === null ? null : { is: 'joint', id: joint.parent },
      turn: joint.axes,
      limits: Object.fromEntries(Object.entries(joint.limits).map(([k, v]) => [k, { ...v }])),
      ...more,
    });
    this.by.set(id, { kind: 'control', control });
    return control;
  }

  /** Whether something moves a joint already. */
  isMoved = (id: string): boolean => this.by.has(id);

  /** Leaves joints to a limb or a spine. */
  leave(joints: readonly string[]): void {
    for (const id of joints) this.by.set(id, null);
  }

  /** Gives controls of both sides each other for partners, where they have the same channels and mirrored places. */
  pair(): void {
    const known = new Map(this.controls.map((c) => [c.id, c]));
    for (const control of this.controls) {
      if (control.side !== 'left' || !control.id.endsWith('L')) continue;
      const other = known.get(`${control.id.slice(0, -1)}R`);
      if (other?.side !== 'right') continue;
      const dials = (c: Control) => (c.dials ?? []).map((d) => d.id).join();
      if (control.move !== other.move || control.turn !== other.turn || dials(control) !== dials(other)) continue;
      const image = mirrored(control.place);
      const far = Math.hypot(...image.map((v, c) => v - other.place[c]));
      if (far > 0.01 * this.height) continue;
      control.partner = other.id;
      other.partner = control.id;
      other.place = [...image];
    }
  }
}

/** An id that is not taken, numbered before its side where it is. */
function free(id: string, isTaken: (id: string) => boolean): string {
  if (!isTaken(id)) return id;
  const [, stem, mark] = /^(.*?)([LR]?)$/.exec(id)!;
  for (let n = 2; ; n++) if (!isTaken(`${stem}${n}${mark}`)) return `${stem}${n}${mark}`;
}
