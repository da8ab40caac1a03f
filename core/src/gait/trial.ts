import type { Curve, NumberCurve } from '../curve/key.ts';
import { channelPath, splitPath } from '../document/channels.ts';
import { type Member, MemberSchema } from '../document/member.ts';
import { emptyShot, type Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { Program } from '../evaluate/program.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { Rigs } from '../rig/rigs.ts';
import { Table } from '../table/table.ts';

/** The rig's member in a trial; its controls are called after it. */
const RIG = 'rig';

/** A rig by itself, in the middle of an empty stage, to try keys on. It is made once for each rig. */
export class Trial {
  #shot: Shot;
  readonly #program: Program;
  readonly frame: Frame;

  private constructor(compiled: CompiledRig) {
    const link = { rig: compiled.rig.id, version: compiled.rig.version };
    const common = { values: {}, locked: false };
    const members: Member[] = [
      MemberSchema.parse({ ...common, id: RIG, kind: 'rig', name: 'Rig', parent: null, rank: 1, shape: link }),
      ...compiled.rig.controls.map((control, c) =>
        MemberSchema.parse({
          ...common,
          id: memberOf(control.id),
          kind: 'control',
          name: control.name,
          parent: RIG,
          rank: c + 1,
          order: control.order,
          rotation: 'angles',
          shape: { ...link, control: control.id },
        }),
      ),
    ];
    this.#shot = {
      ...emptyShot('trial', 'Trial', Rigs.of([compiled.rig])),
      members: Table.of(members.map((m) => [m.id, m])),
    };
    this.#program = new Program(this.#shot);
    this.frame = this.#program.createFrame();
  }

  static readonly #known = new WeakMap<CompiledRig, Trial>();

  /** The trial of a rig. */
  static of(compiled: CompiledRig): Trial {
    const there = Trial.#known.get(compiled) ?? new Trial(compiled);
    Trial.#known.set(compiled, there);
    return there;
  }

  get placed(): PlacedRig {
    return this.frame.layout.rigs[0];
  }

  /** Gives it these keys, by `control.channel`, and no others. */
  take(curves: Iterable<readonly [string, NumberCurve]>): void {
    const own = Table.of(
      [...curves].map(([name, curve]) => {
        const { member, channel } = splitPath(name);
        return [channelPath(memberOf(member), channel), curve as Curve] as const;
      }),
    );
    this.#shot = { ...this.#shot, curves: own };
    this.#program.update(this.#shot);
  }

  at(frame: number): Frame {
    this.#program.evaluate(frame, this.frame);
    return this.frame;
  }

  /** The node of a joint, and of a control. */
  joint(id: string): number {
    return this.placed.joints + this.placed.compiled.jointAt.get(id)!;
  }

  control(id: string): number {
    return this.placed.controls[this.placed.compiled.controlAt.get(id)!];
  }

  /** The node that a control's channels are measured from. */
  space(id: string): number {
    return this.placed.spaces[this.placed.compiled.controlAt.get(id)!];
  }
}

const memberOf = (control: string) => `${RIG}-${control}`;
