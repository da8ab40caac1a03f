import { cutOff, silhouettesMerge } from './as-filmed.ts';
import { belowFloor } from './below-floor.ts';
import type { Check } from './check.ts';
import { contactGap } from './contact-gap.ts';
import { defaultName } from './default-name.ts';
import { earlySquash } from './early-squash.ts';
import { easedLanding } from './eased-landing.ts';
import { effortlessLift } from './effortless-lift.ts';
import { equalBounces } from './equal-bounces.ts';
import { flightFalls } from './flight-falls.ts';
import { flip } from './flip.ts';
import { footSlides } from './foot-slides.ts';
import { goesInto } from './goes-into.ts';
import { halvesDiffer } from './halves-differ.ts';
import { heightNotLost } from './height-not-lost.ts';
import { deadHold, nothingHolds } from './holds.ts';
import { keyOffFrame } from './key-off-frame.ts';
import { kinkedArc } from './kinked-arc.ts';
import { limbReach } from './limb-reach.ts';
import { limitExceeded } from './limit-exceeded.ts';
import { neverChanges } from './never-changes.ts';
import { outOfBalance } from './out-of-balance.ts';
import { plantSlides } from './plant-slides.ts';
import { rollingSlip } from './rolling-slip.ts';
import { seamHitch } from './seam-hitch.ts';
import { seamKey } from './seam-key.ts';
import { travelAndStride } from './travel-and-stride.ts';
import { twinned } from './twinned.ts';
import { unevenGravity } from './uneven-gravity.ts';
import { unevenSpacing } from './uneven-spacing.ts';
import { volume } from './volume.ts';
import { armWithLeg, headUnsteady, hipsTiming, stiffHips } from './walking-body.ts';

/** Every check, in the order findings are listed. A new one is one file beside this one and one line here. */
export const checks: readonly Check[] = [
  easedLanding,
  equalBounces,
  heightNotLost,
  unevenGravity,
  contactGap,
  earlySquash,
  volume,
  rollingSlip,
  kinkedArc,
  unevenSpacing,
  flip,
  footSlides,
  plantSlides,
  belowFloor,
  limbReach,
  limitExceeded,
  seamKey,
  seamHitch,
  halvesDiffer,
  travelAndStride,
  armWithLeg,
  stiffHips,
  hipsTiming,
  headUnsteady,
  twinned,
  outOfBalance,
  flightFalls,
  effortlessLift,
  nothingHolds,
  deadHold,
  goesInto,
  cutOff,
  silhouettesMerge,
  keyOffFrame,
  neverChanges,
  defaultName,
];

const byId = new Map(checks.map((c) => [c.id, c]));
export const checkOf = (id: string): Check | undefined => byId.get(id);
