import type { SkyLight } from '@varrup/core';
import * as THREE from 'three';

/** The harbour look: soft light, one shadow, a paper floor with a faint ruled grid, and dusk that is only paler paper. */

export interface Palette {
  readonly zenith: string;
  readonly horizon: string;
  readonly floor: string;
  readonly line: string;
  readonly sky: string;
  readonly bounce: string;
  readonly sun: string;
  readonly sunlight: number;
  readonly ambient: number;
}

export const palettes: Record<'light' | 'night', Palette> = {
  light: {
    zenith: '#efe5d6',
    horizon: '#f8f3ea',
    floor: '#e9e0d0',
    line: '#c8bda8',
    sky: '#fffdf9',
    bounce: '#d6cab6',
    sun: '#fff8ea',
    sunlight: 1.6,
    ambient: 1.95,
  },
  night: {
    zenith: '#16181b',
    horizon: '#2b2e33',
    floor: '#24272b',
    line: '#44484e',
    sky: '#a9b4c9',
    bounce: '#4a4036',
    sun: '#cdd8f0',
    sunlight: 1.15,
    ambient: 0.95,
  },
};

/** How far out the ruled floor goes before it has faded into the paper. */
const FLOOR = 60;

const floorShader = {
  vertexShader: /* glsl */ `
    varying vec2 place;
    void main() {
      vec4 world = modelMatrix * vec4(position, 1.0);
      place = world.xz;
      gl_Position = projectionMatrix * viewMatrix * world;
    }`,
  fragmentShader: /* glsl */ `
    uniform vec3 floorColour;
    uniform vec3 lineColour;
    uniform vec2 middle;
    varying vec2 place;
    float ruled(float step, float weight) {
      vec2 p = place / step;
      vec2 width = fwidth(p);
      vec2 near = abs(fract(p - 0.5) - 0.5) / max(width, vec2(1e-5));
      // Lines closer together than the screen can show fade out instead of flickering.
      vec2 clear = clamp(1.0 - width * 3.0, 0.0, 1.0);
      return max((1.0 - min(near.x, 1.0)) * clear.x, (1.0 - min(near.y, 1.0)) * clear.y) * weight;
    }
    void main() {
      float far = length(place - middle) / ${FLOOR.toFixed(1)};
      float fade = 1.0 - smoothstep(0.05, 0.75, far);
      float line = max(ruled(0.5, 0.16), ruled(2.5, 0.38)) * fade;
      gl_FragColor = vec4(mix(floorColour, lineColour, line), fade);
      #include <colorspace_fragment>
    }`,
};

const skyShader = {
  vertexShader: /* glsl */ `
    varying vec3 direction;
    void main() {
      direction = position;
      // Without perspective the sky is no ball around the eye but a backdrop as wide as the picture.
      bool flatView = projectionMatrix[3][3] == 1.0;
      gl_Position = flatView ? vec4(position.xy * 3.0, 1.0, 1.0) : projectionMatrix * mat4(mat3(viewMatrix)) * vec4(position, 1.0);
      gl_Position.z = gl_Position.w;
    }`,
  fragmentShader: /* glsl */ `
    uniform vec3 zenith;
    uniform vec3 horizon;
    varying vec3 direction;
    void main() {
      float up = clamp(normalize(direction).y, 0.0, 1.0);
      gl_FragColor = vec4(mix(horizon, zenith, pow(up, 0.6)), 1.0);
      #include <colorspace_fragment>
    }`,
};

/**
 * The floor gives way to whatever lies on it, however coarse the depth buffer is: some have 16 bits, and two
 * millimetres are nothing to them.
 */
const underneath = { polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 8 };

/** Half the sun's disc, radians: larger than it is, as through a little haze. */
const SUN = 0.022;

/** Where the light comes from where there is no sky. */
const FROM_THE_SIDE = new THREE.Vector3(0.62, 2, 0.72).normalize();

/** Takes over a colour as paints say it. */
const put = (colour: THREE.Color, from: Float64Array): THREE.Color =>
  colour.setRGB(from[0], from[1], from[2], THREE.SRGBColorSpace);

export class Backdrop {
  readonly group = new THREE.Group();
  readonly sun = new THREE.DirectionalLight();
  readonly #ambient = new THREE.HemisphereLight();
  readonly #floor: THREE.ShaderMaterial;
  readonly #sky: THREE.ShaderMaterial;
  readonly #shadow: THREE.ShadowMaterial;
  readonly #skyBox: THREE.Mesh;
  readonly #grounds: readonly THREE.Mesh[];
  /** Haze; without a sky there is none. */
  readonly #fog: THREE.FogExp2;
  readonly #towards = FROM_THE_SIDE.clone();
  /** Where the sun stands for the shadow that is cast now. */
  readonly #home = new THREE.Vector3();
  #theme: keyof typeof palettes = 'light';
  #light: SkyLight | null = null;

  /** @param scene whose haze it is */
  constructor(scene: THREE.Scene) {
    this.#fog = new THREE.FogExp2('#ffffff', 0);
    scene.fog = this.#fog;
    this.#floor = new THREE.ShaderMaterial({
      ...floorShader,
      ...underneath,
      transparent: true,
      depthWrite: false,
      uniforms: {
        floorColour: { value: new THREE.Color() },
        lineColour: { value: new THREE.Color() },
        middle: { value: new THREE.Vector2() },
      },
    });
    this.#sky = new THREE.ShaderMaterial({
      ...skyShader,
      side: THREE.BackSide,
      depthWrite: false,
      uniforms: { zenith: { value: new THREE.Color() }, horizon: { value: new THREE.Color() } },
    });
    this.#shadow = new THREE.ShadowMaterial({ color: '#5b4a33', opacity: 0.26, depthWrite: false, ...underneath });
    this.#skyBox = new THREE.Mesh(new THREE.SphereGeometry(1, 32, 16), this.#sky);
    this.#skyBox.frustumCulled = false;
    this.#skyBox.renderOrder = -3;
    const ground = new THREE.PlaneGeometry(FLOOR * 2, FLOOR * 2).rotateX(-Math.PI / 2);
    const floor = new THREE.Mesh(ground, this.#floor);
    floor.renderOrder = -2;
    floor.position.y = -0.002;
    const shadowed = new THREE.Mesh(ground, this.#shadow);
    shadowed.position.y = -0.001;
    shadowed.receiveShadow = true;
    shadowed.renderOrder = -1;

    this.#grounds = [floor, shadowed];

    this.sun.castShadow = true;
    this.sun.shadow.radius = 5;
    this.sun.shadow.bias = -0.0006;
    this.sun.shadow.normalBias = 0.015;
    this.group.add(this.#skyBox, floor, shadowed, this.#ambient, this.sun, this.sun.target);
    this.shadowSize(2048);
    this.theme('light');
  }

  /** How it looks where the shot has no sky of its own. */
  theme(name: keyof typeof palettes): void {
    this.#theme = name;
    if (this.#light === null) this.#paint(name);
  }

  /** Takes over the light of a shot's sky; without one it is as the theme says. */
  sky(light: SkyLight | null, ground: boolean): void {
    if (light === null) {
      if (this.#light === null) return;
      this.#light = null;
      this.#fog.density = 0;
      this.#ground(true);
      this.#paint(this.#theme);
      return;
    }
    this.#light = light;
    this.#ground(ground);
    put(this.#floor.uniforms.floorColour.value, light.floor);
    // The ruled lines are hardly there under a sky.
    put(this.#floor.uniforms.lineColour.value, light.floor).multiplyScalar(0.86);
    put(this.#sky.uniforms.zenith.value, light.zenith);
    put(this.#sky.uniforms.horizon.value, light.horizon);
    put(this.#ambient.color, light.above);
    put(this.#ambient.groundColor, light.below);
    this.#ambient.intensity = light.ambient;
    put(this.sun.color, light.sun);
    this.sun.intensity = light.strength;
    this.#shadow.color.set('#1d2330');
    this.#shadow.opacity = 0.12 + 0.14 * Math.min(1, light.strength);
    put(this.#fog.color, light.horizon);
    this.#fog.density = light.lost;
    this.#towards.fromArray(light.towards);
  }

  #ground(there: boolean): void {
    for (const part of this.#grounds) part.visible = there;
  }

  #paint(name: keyof typeof palettes): void {
    const p = palettes[name];
    this.#towards.copy(FROM_THE_SIDE);
    this.#floor.uniforms.floorColour.value.set(p.floor);
    this.#floor.uniforms.lineColour.value.set(p.line);
    this.#sky.uniforms.zenith.value.set(p.zenith);
    this.#sky.uniforms.horizon.value.set(p.horizon);
    this.#ambient.color.set(p.sky);
    this.#ambient.groundColor.set(p.bounce);
    this.#ambient.intensity = p.ambient;
    this.sun.color.set(p.sun);
    this.sun.intensity = p.sunlight;
    this.#shadow.color.set(name === 'night' ? '#000000' : '#5b4a33');
    this.#shadow.opacity = name === 'night' ? 0.4 : 0.26;
  }

  shadowSize(size: number): void {
    const { shadow } = this.sun;
    this.sun.castShadow = size > 0;
    if (size === 0 || shadow.mapSize.x === size) return;
    shadow.mapSize.set(size, size);
    shadow.map?.dispose();
    shadow.map = null;
  }

  /** Light from another point of the sun's disc: of many together the shadow is soft. @param x, y from -1 to 1 */
  fromBeside(x: number, y: number): void {
    const way = this.#home.clone().sub(this.sun.target.position);
    const far = way.length() * SUN;
    const aside = new THREE.Vector3(0, 1, 0.01).cross(way).normalize();
    const over = way.clone().cross(aside).normalize();
    this.sun.position
      .copy(this.#home)
      .addScaledVector(aside, x * far)
      .addScaledVector(over, y * far);
  }

  /** Lets the one shadow cover a ball of space. */
  cover(centre: THREE.Vector3, radius: number): void {
    this.sun.target.position.copy(centre);
    this.sun.position
      .copy(this.#towards)
      .multiplyScalar(radius * 2.2)
      .add(centre);
    this.#home.copy(this.sun.position);
    const { camera } = this.sun.shadow;
    camera.left = camera.bottom = -radius;
    camera.right = camera.top = radius;
    camera.near = radius * 0.2;
    camera.far = radius * 4;
    camera.updateProjectionMatrix();
    this.#floor.uniforms.middle.value.set(centre.x, centre.z);
  }
}
