import * as THREE from 'three';

const quad = (fragment: string, uniforms: Record<string, THREE.IUniform>, adds: boolean) =>
  new THREE.ShaderMaterial({
    vertexShader: /* glsl */ `
      varying vec2 place;
      void main() {
        place = uv;
        gl_Position = vec4(position.xy, 0.0, 1.0);
      }`,
    fragmentShader: fragment,
    uniforms,
    depthTest: false,
    depthWrite: false,
    blending: adds ? THREE.CustomBlending : THREE.NoBlending,
    blendSrc: THREE.OneFactor,
    blendDst: THREE.OneFactor,
  });

/**
 * The mean of several pictures of one moment, by how much light is in them: what a lens that is open, and a sun that is no point, let
 * through together (Haeberli & Akeley, SIGGRAPH 1990).
 */
export class Accumulator {
  readonly #renderer: THREE.WebGLRenderer;
  readonly #screen = new THREE.Mesh(new THREE.PlaneGeometry(2, 2));
  readonly #scene = new THREE.Scene();
  readonly #camera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
  readonly #add: THREE.ShaderMaterial;
  readonly #show: THREE.ShaderMaterial;
  #one: THREE.FramebufferTexture | null = null;
  #sum: THREE.WebGLRenderTarget | null = null;

  constructor(renderer: THREE.WebGLRenderer) {
    this.#renderer = renderer;
    this.#screen.frustumCulled = false;
    this.#scene.add(this.#screen);
    // Pictures are as the screen has them; what is added up is light.
    this.#add = quad(
      /* glsl */ `
      uniform sampler2D picture;
      uniform float share;
      varying vec2 place;
      void main() {
        vec3 c = texture2D(picture, place).rgb;
        vec3 light = mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c));
        gl_FragColor = vec4(light * share, share);
      }`,
      { picture: { value: null }, share: { value: 1 } },
      true,
    );
    this.#show = quad(
      /* glsl */ `
      uniform sampler2D sum;
      varying vec2 place;
      void main() {
        vec3 l = texture2D(sum, place).rgb;
        vec3 c = mix(l * 12.92, 1.055 * pow(l, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, l));
        gl_FragColor = vec4(c, 1.0);
      }`,
      { sum: { value: null } },
      false,
    );
  }

  /** Draws `count` pictures, each by `draw`, and their mean onto the canvas. */
  mean(count: number, draw: (sample: number) => void): void {
    const renderer = this.#renderer;
    const size = renderer.getDrawingBufferSize(new THREE.Vector2());
    const { one, sum } = this.#buffers(size);
    renderer.setRenderTarget(sum);
    renderer.setClearColor('#000000', 0);
    renderer.clear();
    const { autoClear } = renderer;
    for (let sample = 0; sample < count; sample++) {
      renderer.setRenderTarget(null);
      draw(sample);
      renderer.copyFramebufferToTexture(one);
      renderer.setRenderTarget(sum);
      renderer.autoClear = false;
      this.#add.uniforms.picture.value = one;
      this.#add.uniforms.share.value = 1 / count;
      this.#screen.material = this.#add;
      renderer.render(this.#scene, this.#camera);
      renderer.autoClear = autoClear;
    }
    renderer.setRenderTarget(null);
    this.#show.uniforms.sum.value = sum.texture;
    this.#screen.material = this.#show;
    renderer.render(this.#scene, this.#camera);
  }

  #buffers(size: THREE.Vector2): { one: THREE.FramebufferTexture; sum: THREE.WebGLRenderTarget } {
    if (this.#one && this.#sum && this.#sum.width === size.x && this.#sum.height === size.y)
      return { one: this.#one, sum: this.#sum };
    this.#one?.dispose();
    this.#sum?.dispose();
    this.#one = new THREE.FramebufferTexture(size.x, size.y);
    this.#sum = new THREE.WebGLRenderTarget(size.x, size.y, { type: THREE.FloatType, depthBuffer: false });
    return { one: this.#one, sum: this.#sum };
  }

  dispose(): void {
    this.#one?.dispose();
    this.#sum?.dispose();
    this.#add.dispose();
    this.#show.dispose();
    this.#screen.geometry.dispose();
  }
}
