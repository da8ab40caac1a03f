import { type Cover, patternTile, TILE } from '@varrup/core';
import * as THREE from 'three';
import { picturesOfHashes, textureOf } from '../../media/textures.ts';

/** What lies on forms, as the graphics card draws it. */

const tiles = new Map<string, THREE.DataTexture>();

/** The tile of a pattern; kept for as long as the page or the worker is open. */
function tileOf({ pattern, grain }: Extract<Cover, { is: 'pattern' }>): THREE.DataTexture {
  const name = `${pattern} ${grain}`;
  const known = tiles.get(name);
  if (known) return known;
  const points = patternTile(pattern, grain);
  const data = new Uint8Array(TILE * TILE * 4).fill(255);
  for (let p = 0; p < TILE * TILE; p++) {
    data[p * 4] = points[p * 2];
    data[p * 4 + 1] = points[p * 2 + 1];
  }
  const tile = new THREE.DataTexture(data, TILE, TILE, THREE.RGBAFormat);
  tile.wrapS = tile.wrapT = THREE.RepeatWrapping;
  tile.magFilter = THREE.LinearFilter;
  tile.minFilter = THREE.LinearMipmapLinearFilter;
  tile.generateMipmaps = true;
  tile.anisotropy = 8;
  tile.needsUpdate = true;
  tiles.set(name, tile);
  return tile;
}

/** What is drawn in place of a picture: from the material's colour to the second one, and how much of its light is kept. */
const MIXED = /* glsl */ `
  vec2 cover = texture2D(map, vMapUv).rg;
  diffuseColor.rgb = mix(diffuseColor.rgb, second, cover.r) * cover.g;`;
/** What shines by itself shines in its pattern. */
const SHINING = /* glsl */ `
  totalEmissiveRadiance = glow * diffuseColor.rgb;`;

/** The surface of a form that is made of something. Its colour and its surface are set at each frame. */
export class CoveredMaterial {
  readonly material: THREE.MeshStandardMaterial;
  readonly #second = { value: new THREE.Color() };
  readonly #glow = { value: 0 };
  /** The picture that should lie on it and is not there yet. */
  #awaited: string | null = null;

  constructor(cover: Cover | null, bothSides: boolean) {
    const side = bothSides ? THREE.DoubleSide : THREE.FrontSide;
    this.material = new THREE.MeshStandardMaterial({ side });
    const isPattern = cover?.is === 'pattern';
    if (isPattern) this.material.map = tileOf(cover);
    else if (cover) this.#awaited = cover.media;
    // Somebody else may have laid it on just now.
    if (this.#awaited !== null && !textureOf(this.#awaited)) void picturesOfHashes([this.#awaited]);
    if (isPattern) this.#second.value.set(cover.second);
    this.material.onBeforeCompile = (shader) => {
      shader.uniforms.second = this.#second;
      shader.uniforms.glow = this.#glow;
      shader.fragmentShader = `uniform vec3 second;\nuniform float glow;\n${shader.fragmentShader}`.replace(
        '#include <emissivemap_fragment>',
        SHINING,
      );
      if (isPattern) shader.fragmentShader = shader.fragmentShader.replace('#include <map_fragment>', MIXED);
    };
    this.material.customProgramCacheKey = () => (isPattern ? 'pattern' : 'surface');
  }

  #layOn(picture: string): void {
    const texture = textureOf(picture);
    if (!texture) return;
    this.#awaited = null;
    this.material.map = texture;
    this.material.needsUpdate = true;
  }

  /** How it is now. */
  set(colour: THREE.Color, roughness: number, metal: number, glow: number, clear: number): void {
    const { material } = this;
    if (this.#awaited !== null) this.#layOn(this.#awaited);
    material.color.copy(colour);
    material.roughness = roughness;
    material.metalness = metal;
    this.#glow.value = glow;
    material.opacity = 1 - clear;
    const isClear = clear > 0;
    if (material.transparent !== isClear) {
      material.transparent = isClear;
      material.depthWrite = !isClear;
      material.needsUpdate = true;
    }
  }
}
