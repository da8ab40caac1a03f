import { type Build, weighed } from '@varrup/core';
import * as Comlink from 'comlink';

/** What of building rigs takes more than a moment. */
export const rigger = {
  /** The weights of the meshes that are soft, or are to be. @param meshes their ids */
  weigh(build: Build, meshes: readonly string[], progress: (share: number) => void): Build['meshes'] {
    let told = 0;
    const own = build.meshes.filter((mesh) => meshes.includes(mesh.id));
    const done = weighed(own, build.joints, (share) => {
      if (share < told + 0.02) return;
      told = share;
      progress(share);
    });
    const byId = new Map(done.map((mesh) => [mesh.id, mesh]));
    return build.meshes.map((mesh) => byId.get(mesh.id) ?? mesh);
  },
};

Comlink.expose(rigger);
