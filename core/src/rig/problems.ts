import { compiledFormula } from '../formula/compiled-formula.ts';
import { MOST_PROBLEMS, type Parsed, type Problem, pointer, problemsOf } from '../schema/problem.ts';
import { type Carrier, type Driven, type Rig, type RigMesh, RigSchema, rigLimits, WHOLE_WEIGHT } from './definition.ts';

/** Reads a rig from outside: its form, its size, and that every part it names is there. What is returned is safe to place. */
export function parseRig(json: unknown): Parsed<Rig> {
  const parsed = RigSchema.safeParse(json);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error) };
  const problems = new RigReader(parsed.data).problems;
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: parsed.data };
}

class RigReader {
  readonly problems: Problem[] = [];
  readonly #rig: Rig;
  readonly #joints: Set<string>;
  readonly #controls: Map<string, Rig['controls'][number]>;

  constructor(rig: Rig) {
    this.#rig = rig;
    this.#joints = new Set(rig.joints.map((j) => j.id));
    this.#controls = new Map(rig.controls.map((c) => [c.id, c]));
    for (const list of ['joints', 'controls', 'limbs', 'feet', 'spines', 'meshes', 'sets'] as const) {
      const ids = rig[list].map((part: { id: string }) => part.id);
      ids.forEach((id, i) => {
        if (ids.indexOf(id) !== i) this.#say([list, i, 'id'], `is "${id}", as another is called already`);
      });
    }
    this.#readJoints();
    this.#readControls();
    this.#readTies();
    for (const [m, mesh] of rig.meshes.entries()) this.#readMesh(mesh, m);
    const vertices = rig.meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0);
    if (vertices > rigLimits.vertices) this.#say(['meshes'], `have more than ${rigLimits.vertices} vertices together`);
  }

  #say(path: readonly PropertyKey[], sentence: string): void {
    if (this.problems.length < MOST_PROBLEMS) this.problems.push({ pointer: pointer(path), sentence });
  }

  #joint(id: string | null, path: readonly PropertyKey[]): void {
    if (id !== null && !this.#joints.has(id)) this.#say(path, `names the joint "${id}", which the rig has not`);
  }

  #control(id: string | null, path: readonly PropertyKey[]): void {
    if (id !== null && !this.#controls.has(id)) this.#say(path, `names the control "${id}", which the rig has not`);
  }

  #carrier(carrier: Carrier | null, path: readonly PropertyKey[]): void {
    if (carrier?.is === 'joint') this.#joint(carrier.id, path);
    if (carrier?.is === 'control') this.#control(carrier.id, path);
    if (carrier?.is === 'along' && !this.#rig.limbs.some((l) => l.id === carrier.id))
      this.#say(path, `names the limb "${carrier.id}", which the rig has not`);
  }

  #readJoints(): void {
    const { joints } = this.#rig;
    const before = new Set<string>();
    joints.forEach((joint, j) => {
      if (joint.parent !== null && !before.has(joint.parent))
        this.#say(['joints', j, 'parent'], `names "${joint.parent}", which does not come before it`);
      before.add(joint.id);
      const { by } = joint;
      const at = ['joints', j, 'by'];
      if (by?.kind === 'control' || by?.kind === 'share') this.#control(by.control, at);
      if (by?.kind === 'foot' && !this.#rig.feet.some((f) => f.id === by.foot))
        this.#say(at, `names the foot "${by.foot}", which the rig has not`);
      if (by?.kind === 'dials') {
        for (const group of ['turn', 'move', 'size'] as const) {
          by[group].forEach((d, i) => {
            if (d) this.#driven(d, [...at, group, i]);
          });
        }
      }
    });
  }

  #readControls(): void {
    this.#rig.controls.forEach((control, c) => {
      const at = ['controls', c];
      this.#carrier(control.in, [...at, 'in']);
      for (const joint of [...control.stands, ...(control.holds ? [control.holds] : [])]) this.#joint(joint, at);
      const ids = control.dials.map((d) => d.id);
      if (new Set(ids).size !== ids.length) this.#say([...at, 'dials'], 'has the same dial twice');
      control.dials.forEach((d, i) => {
        if (d.min > d.max || d.initial < d.min || d.initial > d.max)
          this.#say([...at, 'dials', i], 'does not begin between its ends');
      });
      if (control.partner === null) return;
      const partner = this.#controls.get(control.partner);
      if (partner?.partner !== control.id) {
        this.#say([...at, 'partner'], `names "${control.partner}", which does not name it back`);
        return;
      }
      const [x, y, z] = control.place;
      const apart = Math.hypot(x + partner.place[0], y - partner.place[1], z - partner.place[2]);
      if (apart > 1e-6) this.#say([...at, 'place'], `is not the mirror image of its partner's`);
      const same = (key: 'move' | 'turn' | 'size' | 'order' | 'rotation') => control[key] === partner[key];
      if (
        !(['move', 'turn', 'size', 'order', 'rotation'] as const).every(same) ||
        ids.join() !== partner.dials.map((d) => d.id).join()
      )
        this.#say(at, 'has other channels than its partner');
    });
  }

  #readTies(): void {
    const { limbs, feet, spines, looks, sets } = this.#rig;
    const dials = (id: string, names: readonly string[], path: readonly PropertyKey[]) => {
      this.#control(id, path);
      for (const name of names) {
        if (this.#controls.has(id) && !this.#controls.get(id)!.dials.some((d) => d.id === name))
          this.#say(path, `needs the dial "${name}" on the control "${id}"`);
      }
    };
    limbs.forEach((limb, l) => {
      const at = ['limbs', l];
      for (const joint of [limb.upper, limb.lower, limb.end]) this.#joint(joint, at);
      for (const control of [limb.pole, ...limb.joints]) this.#control(control, at);
      dials(limb.dials, ['reach', 'soft', 'stretch'], [...at, 'dials']);
      if (limb.target.is === 'control') this.#control(limb.target.id, [...at, 'target']);
      else if (!feet.some((f) => f.id === limb.target.id)) this.#say([...at, 'target'], 'names a foot the rig has not');
      if (Math.hypot(...limb.along) < 1e-6) this.#say([...at, 'along'], 'has no direction');
    });
    feet.forEach((foot, f) => {
      dials(foot.control, ['heel', 'ball', 'toe', 'bank'], ['feet', f, 'control']);
    });
    spines.forEach((spine, s) => {
      for (const joint of spine.joints) this.#joint(joint, ['spines', s, 'joints']);
      this.#carrier(spine.from, ['spines', s, 'from']);
      this.#carrier(spine.to, ['spines', s, 'to']);
    });
    looks.forEach((look, l) => {
      this.#joint(look.joint, ['looks', l, 'joint']);
      this.#control(look.at, ['looks', l, 'at']);
      const [control, dial] = look.share.split('.');
      dials(control, [dial], ['looks', l, 'share']);
    });
    sets.forEach((set, s) => {
      for (const control of set.controls) this.#control(control, ['sets', s, 'controls']);
    });
  }

  #driven(driven: Driven, path: readonly PropertyKey[]): void {
    const made = compiledFormula(driven);
    if (!made.ok) {
      this.#say([...path, 'text'], `${made.problem.sentence} (character ${made.problem.at + 1})`);
      return;
    }
    if (made.formula.elsewhere.some((n) => n > 0)) this.#say([...path, 'text'], 'reads a dial at another moment');
    driven.inputs.forEach((input, i) => {
      const dot = input.path.indexOf('.');
      const control = this.#controls.get(input.path.slice(0, dot));
      const channel = input.path.slice(dot + 1);
      const [group, axis] = channel.split('.');
      const has =
        control?.dials.some((d) => d.id === channel) ||
        ((group === 'move' || group === 'turn' || group === 'size') && axis && control?.[group].includes(axis));
      if (!has) this.#say([...path, 'inputs', i], `names "${input.path}", which the rig has not`);
    });
  }

  #readMesh(mesh: RigMesh, m: number): void {
    const at = ['meshes', m];
    const count = mesh.positions.length / 3;
    if (!Number.isInteger(count)) this.#say([...at, 'positions'], 'are not three numbers a vertex');
    if (mesh.triangles.length % 3 !== 0) this.#say([...at, 'triangles'], 'are not three vertices each');
    if (mesh.triangles.some((v) => v >= count)) this.#say([...at, 'triangles'], 'name a vertex that is not there');
    const picture = mesh.material?.picture;
    if (picture && picture.places.length !== count * 2)
      this.#say([...at, 'material', 'picture', 'places'], 'are not two numbers a vertex');
    const { skin } = mesh;
    if (skin.kind === 'rigid') this.#joint(skin.joint, [...at, 'skin']);
    else {
      for (const joint of skin.joints) this.#joint(joint, [...at, 'skin', 'joints']);
      if (skin.indices.length !== count * 4 || skin.weights.length !== count * 4)
        this.#say([...at, 'skin'], 'has not four weights a vertex');
      else if (skin.indices.some((j) => j >= skin.joints.length))
        this.#say([...at, 'skin'], 'names a joint not listed');
      else {
        for (let v = 0; v < count; v++) {
          const w = skin.weights;
          if (w[v * 4] + w[v * 4 + 1] + w[v * 4 + 2] + w[v * 4 + 3] !== WHOLE_WEIGHT) {
            this.#say([...at, 'skin', 'weights'], `of vertex ${v} do not sum to ${WHOLE_WEIGHT}`);
            break;
          }
        }
      }
    }
    mesh.targets.forEach((target, t) => {
      const here = [...at, 'targets', t];
      if (target.vertices.some((v) => v >= count)) this.#say(here, 'moves a vertex that is not there');
      if (target.offsets.length !== target.vertices.length * 3) this.#say(here, 'has not three offsets a vertex');
      this.#driven(target.by, [...here, 'by']);
    });
  }
}
