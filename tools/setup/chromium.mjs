import { existsSync } from 'node:fs';
import { ensureDebian } from './debian.mjs';

const places = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];

/** Debian's Chromium, for tests and pictures. */
export const ensureChromium = () => ensureDebian('chromium', () => places.find((p) => existsSync(p)) ?? null);
