/**
 * Decides between the full picture and a lighter draft. A few slow pictures in a row bring the draft; going back needs
 * many quick ones, so that it does not flicker between the two.
 */
export class Quality {
  draft: boolean;
  #slow = 0;
  #quick = 0;
  #count = 0;

  /** @param draft whether to begin with the draft: where it is known beforehand that the full picture will be slow */
  constructor(draft = false) {
    this.draft = draft;
  }

  /** Whether this picture should be measured: the first few, one after a slow one, and otherwise every eighth. */
  wants(): boolean {
    return this.#count++ < 8 || this.#slow > 0 || this.#count % 8 === 0;
  }

  /** Notes how long a picture that was measured took, in milliseconds. Returns whether the quality changed. */
  took(ms: number): boolean {
    this.#slow = ms > 50 ? this.#slow + 1 : 0;
    this.#quick = ms < 14 ? this.#quick + 1 : 0;
    if (!this.draft && this.#slow >= 3) return this.#become(true);
    if (this.draft && this.#quick >= 12) return this.#become(false);
    return false;
  }

  #become(draft: boolean): boolean {
    this.draft = draft;
    this.#slow = 0;
    this.#quick = 0;
    return true;
  }
}

let software: boolean | null = null;

/** Whether this browser draws without a graphics card; found out once. Smooth edges cost such a one most of its time. */
export function isSoftware(): boolean {
  if (software === null) {
    const gl = typeof OffscreenCanvas === 'undefined' ? null : new OffscreenCanvas(1, 1).getContext('webgl2');
    software = gl !== null && drawnInSoftware(gl);
    gl?.getExtension('WEBGL_lose_context')?.loseContext();
  }
  return software;
}

/** Whether pictures are drawn without a graphics card: by names of the drivers that do so. */
export function drawnInSoftware(gl: WebGLRenderingContext | WebGL2RenderingContext): boolean {
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const name = String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER));
  return /swiftshader|llvmpipe|softpipe|software|basic render/i.test(name);
}
