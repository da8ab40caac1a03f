import type { Input, InputVideoTrack } from 'mediabunny';

/** What is to be known of footage before it is pinned. @throws an error with a sentence where it cannot be shown */
export async function aboutFilm(
  input: Input,
): Promise<{ seconds: number; width: number; height: number; rate: number }> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('There is no picture in it, only sound.');
  if (!(await track.canDecode())) throw new Error('This browser does not know how the footage is packed.');
  const seconds = await track.computeDuration();
  return { seconds, width: track.displayWidth, height: track.displayHeight, rate: await rateOf(track) };
}

/** Pictures a second: what is usual, where what was measured is as good as that. */
async function rateOf(track: InputVideoTrack): Promise<number> {
  const { averagePacketRate } = await track.computePacketStats(120);
  const usual = [23.976_024, 24, 25, 29.970_03, 30, 48, 50, 59.940_06, 60].find(
    (rate) => Math.abs(rate / averagePacketRate - 1) < 5e-4,
  );
  return usual ?? Math.min(1_000, Math.max(1, averagePacketRate));
}
