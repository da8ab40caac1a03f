/** What people are called who have told no name: by something of the harbour, the same for a person at every desk. */
const SIGNS = [
  'Anchor',
  'Beacon',
  'Bollard',
  'Buoy',
  'Compass',
  'Cormorant',
  'Ferryman',
  'Foghorn',
  'Gull',
  'Heron',
  'Keel',
  'Lantern',
  'Lighthouse',
  'Mooring',
  'Otter',
  'Pilot',
  'Pontoon',
  'Rudder',
  'Seal',
  'Sextant',
  'Starling',
  'Tern',
  'Tiller',
  'Windlass',
] as const;

/** What somebody is called, by their id. */
export function callSign(person: string): string {
  let hash = 0;
  for (const letter of person) hash = (Math.imul(hash, 31) + letter.charCodeAt(0)) >>> 0;
  return SIGNS[hash % SIGNS.length];
}
