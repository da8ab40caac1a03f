import {
  type CompiledRig,
  changingPaths,
  type Frame,
  hasForm,
  isAffine,
  isDeformed,
  type Shot,
  shapeMatrix,
  splitPath,
} from '@varrup/core';
import * as THREE from 'three';
import { colour } from '../../ui/theme.ts';
import type { OnionSkin } from '../../view/habits.ts';
import { live } from '../../view/live.ts';
import type { Moment } from '../moment.ts';
import { BentGeometry } from '../picture/bent-geometry.ts';
import type { FormStore } from '../picture/forms.ts';
import { RigFigure } from '../picture/rig-figure.ts';
import { type GhostFrame, ghostFrames } from './ghost-frames.ts';
import type { Overlay } from './overlay.ts';

/** Drawn for more members than this, ghosts hide what they are of. */
const MOST = 400;

const shader = {
  vertexShader: /* glsl */ `
    attribute float strength;
    varying vec3 tint;
    varying float alpha;
    varying vec3 facing;
    varying vec3 eye;
    void main() {
      vec4 place = viewMatrix * modelMatrix * instanceMatrix * vec4(position, 1.0);
      facing = normalize(mat3(viewMatrix) * mat3(modelMatrix) * mat3(instanceMatrix) * normal);
      eye = projectionMatrix[3][3] == 1.0 ? vec3(0.0, 0.0, 1.0) : normalize(-place.xyz);
      tint = instanceColor;
      alpha = strength;
      gl_Position = projectionMatrix * place;
    }`,
  fragmentShader: /* glsl */ `
    uniform bool outlines;
    varying vec3 tint;
    varying float alpha;
    varying vec3 facing;
    varying vec3 eye;
    void main() {
      float rim = 1.0 - abs(dot(normalize(facing), normalize(eye)));
      float here = outlines ? smoothstep(0.45, 0.8, rim) * 2.2 : 0.75 + 0.5 * rim;
      gl_FragColor = vec4(tint, min(1.0, alpha * here));
      #include <colorspace_fragment>
    }`,
};

/** The same look for a body that the graphics card bends: its joints first, then the ghost. */
const bodyShader = {
  vertexShader: /* glsl */ `
    #include <common>
    #include <morphtarget_pars_vertex>
    #include <skinning_pars_vertex>
    uniform vec3 ghostTint;
    uniform float ghostStrength;
    varying vec3 tint;
    varying float alpha;
    varying vec3 facing;
    varying vec3 eye;
    void main() {
      #include <beginnormal_vertex>
      #include <skinbase_vertex>
      #include <skinnormal_vertex>
      #include <begin_vertex>
      #include <morphinstance_vertex>
      #include <morphtarget_vertex>
      #include <skinning_vertex>
      vec4 place = viewMatrix * modelMatrix * vec4(transformed, 1.0);
      facing = normalize(mat3(viewMatrix) * mat3(modelMatrix) * objectNormal);
      eye = projectionMatrix[3][3] == 1.0 ? vec3(0.0, 0.0, 1.0) : normalize(-place.xyz);
      tint = ghostTint;
      alpha = ghostStrength;
      gl_Position = projectionMatrix * place;
    }`,
  fragmentShader: shader.fragmentShader,
};

/** A rig at all the ghosts' frames: a body for each. */
interface Bodies {
  readonly member: string;
  readonly ghosts: { readonly figure: RigFigure; readonly material: THREE.ShaderMaterial }[];
}

/** One form at all the ghosts' frames. */
interface Layer {
  readonly mesh: THREE.InstancedMesh;
  readonly member: string;
  /** Where its member bends it point by point, a form for each frame, each drawn as one instance. */
  readonly bent: { readonly mesh: THREE.InstancedMesh; readonly form: BentGeometry }[];
}

/** The neighbouring frames drawn around this one: cool before it, warm after it, fainter the further away. */
export class Ghosts implements Overlay {
  readonly amongBodies = true;
  readonly scene = new THREE.Scene();
  readonly #material = new THREE.ShaderMaterial({
    ...shader,
    transparent: true,
    depthWrite: false,
    uniforms: { outlines: { value: false } },
  });
  #layers: Layer[] = [];
  #bodies: Bodies[] = [];
  #made: { members: Shot['members']; ids: readonly string[]; count: number } | null = null;
  readonly #forms: FormStore;
  #shown: { shot: Shot; now: number; onion: OnionSkin; ids: readonly string[] } | null = null;
  readonly #matrix = new Float64Array(16);
  readonly #identity = new THREE.Matrix4();

  constructor(forms: FormStore) {
    this.#forms = forms;
  }

  /** Draws the neighbours of a frame; while it plays they would only be in the way. */
  show({ shot, frame, picked, playing, habits: { onion } }: Moment): void {
    this.scene.visible = onion.on && !playing;
    if (!this.scene.visible) return;
    const now = frame.at;
    const ids = ghostly(shot, onion.who === 'picked' ? picked : null);
    const s = this.#shown;
    const same = s?.ids.length === ids.length && ids.every((id, i) => id === s.ids[i]);
    if (s && same && s.shot === shot && s.now === now && s.onion === onion) return;
    this.#shown = { shot, now, onion, ids };
    const frames = ghostFrames(shot, withControls(shot, ids), now, onion);
    this.#material.uniforms.outlines.value = onion.look === 'outlines';
    this.#build(shot, ids, frames.length);
    this.#place(frames);
  }

  recolour(): void {
    this.#shown = null;
  }

  dispose(): void {
    this.#clear();
    this.#material.dispose();
  }

  #clear(): void {
    for (const { mesh, bent } of this.#layers) {
      mesh.dispose();
      for (const b of bent) {
        b.mesh.dispose();
        b.form.dispose();
      }
    }
    for (const { ghosts } of this.#bodies) for (const { figure } of ghosts) figure.dispose();
    this.scene.clear();
    this.#layers = [];
    this.#bodies = [];
  }

  #build(shot: Shot, ids: readonly string[], count: number): void {
    const m = this.#made;
    const same = m?.count === count && m.ids.length === ids.length && ids.every((id, i) => id === m.ids[i]);
    if (m && same && ids.every((id) => m.members.get(id) === shot.members.get(id))) return;
    this.#made = { members: shot.members, ids, count };
    this.#clear();
    for (const id of ids) {
      const member = shot.members.at(id);
      if (member.kind === 'rig') this.#buildBody(id, shot.rigs.at(member.shape), count);
      const form = this.#forms.of(shot.members.at(id), ids.length > 12 ? 'crowd' : 'full');
      for (const { geometry } of form.bodies) {
        const mesh = this.#instances(geometry, count);
        this.scene.add(mesh);
        this.#layers.push({ mesh, member: id, bent: [] });
      }
    }
  }

  #buildBody(member: string, compiled: CompiledRig, count: number): void {
    const ghosts = Array.from({ length: count }, () => {
      const material = new THREE.ShaderMaterial({
        ...bodyShader,
        transparent: true,
        // Its own parts must not show through one another: a body is one ghost, not forty.
        uniforms: {
          outlines: this.#material.uniforms.outlines,
          ghostTint: { value: new THREE.Color() },
          ghostStrength: { value: 0 },
        },
      });
      const figure = new RigFigure(compiled, material);
      this.scene.add(figure.root);
      return { figure, material };
    });
    this.#bodies.push({ member, ghosts });
  }

  #instances(geometry: THREE.BufferGeometry, count: number): THREE.InstancedMesh {
    // The geometry is shared with the picture; what is the ghosts' own is put on a light copy of it.
    const own = new THREE.BufferGeometry();
    own.index = geometry.index;
    own.setAttribute('position', geometry.getAttribute('position'));
    own.setAttribute('normal', geometry.getAttribute('normal'));
    own.setAttribute('strength', new THREE.InstancedBufferAttribute(new Float32Array(count), 1));
    const mesh = new THREE.InstancedMesh(own, this.#material, count);
    mesh.instanceColor = new THREE.InstancedBufferAttribute(new Float32Array(count * 3), 3);
    mesh.frustumCulled = false;
    return mesh;
  }

  #place(frames: readonly GhostFrame[]): void {
    const tints = { before: new THREE.Color(colour('before')), after: new THREE.Color(colour('after')) };
    frames.forEach((ghost, i) => {
      const frame = live.sample(ghost.frame)!;
      const tint = tints[ghost.side];
      for (const { member, ghosts } of this.#bodies) {
        const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(member)!);
        if (!placed) continue;
        const { figure, material } = ghosts[i];
        figure.pose(frame, placed);
        material.uniforms.ghostTint.value.copy(tint);
        material.uniforms.ghostStrength.value = ghost.strength;
      }
      for (const layer of this.#layers) {
        const slot = frame.layout.slotOf.get(layer.member)!;
        const strength = frame.isVisible(slot) ? ghost.strength : 0;
        shapeMatrix(frame, slot, this.#matrix);
        const bends = isDeformed(frame, slot) && !isAffine(frame, slot);
        const shown = bends ? this.#bent(layer, i, frame, slot) : layer.mesh;
        const at = bends ? 0 : i;
        if (bends) {
          set(layer.mesh, i, this.#identity.elements, tint, 0);
          set(shown, at, frame.world.subarray(slot * 16, slot * 16 + 16), tint, strength);
        } else set(shown, at, this.#matrix, tint, strength);
      }
    });
    for (const { mesh, bent } of this.#layers) for (const each of [mesh, ...bent.map((b) => b.mesh)]) changed(each);
  }

  /** The form of a bent member at one ghost's frame. */
  #bent(layer: Layer, index: number, frame: Frame, slot: number): THREE.InstancedMesh {
    let bent = layer.bent[index];
    if (!bent) {
      const form = new BentGeometry(layer.mesh.geometry);
      const mesh = this.#instances(form.geometry, 1);
      this.scene.add(mesh);
      bent = { mesh, form };
      layer.bent[index] = bent;
    }
    bent.form.bend(frame, slot);
    return bent.mesh;
  }
}

function set(
  mesh: THREE.InstancedMesh,
  at: number,
  matrix: ArrayLike<number>,
  tint: THREE.Color,
  strength: number,
): void {
  for (let k = 0; k < 16; k++) mesh.instanceMatrix.array[at * 16 + k] = matrix[k];
  mesh.instanceMatrix.array[at * 16 + 15] = 1;
  mesh.instanceColor!.setXYZ(at, tint.r, tint.g, tint.b);
  (mesh.geometry.getAttribute('strength') as THREE.InstancedBufferAttribute).setX(at, strength);
}

function changed(mesh: THREE.InstancedMesh): void {
  mesh.instanceMatrix.needsUpdate = true;
  mesh.instanceColor!.needsUpdate = true;
  mesh.geometry.getAttribute('strength').needsUpdate = true;
}

/** Members, and for rigs their controls, whose keys are the rig's. */
function withControls(shot: Shot, ids: readonly string[]): string[] {
  const rigs = new Set(ids.filter((id) => shot.members.at(id).kind === 'rig'));
  const controls = shot.members.values().filter((m) => m.kind === 'control' && m.parent && rigs.has(m.parent));
  return [...ids, ...controls.map((m) => m.id)];
}

/** Those a ghost is drawn of: the picked ones with all that hangs on them, or everybody who moves; groups have nothing to see. */
function ghostly(shot: Shot, picked: readonly string[] | null): string[] {
  const meant = picked ?? [...changingPaths(shot)].map((p) => splitPath(p).member);
  // A control is seen by the body it moves.
  const roots = new Set(
    meant.map((id) => (shot.members.get(id)?.kind === 'control' ? shot.members.at(id).parent : id)),
  );
  const carried = (id: string): boolean => {
    for (let at: string | null = id; at !== null; at = shot.members.get(at)?.parent ?? null)
      if (roots.has(at)) return true;
    return false;
  };
  const seen = shot.members.values().filter((m) => (hasForm(m.kind) || m.kind === 'rig') && carried(m.id));
  return seen.slice(0, MOST).map((m) => m.id);
}
