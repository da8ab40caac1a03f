import { z } from 'zod';

/** What a sound or a picture that was brought in is known by: the SHA-256 of its bytes. */
export const MediaHashSchema = z.string().regex(/^[0-9a-f]{64}$/, 'is not the hash of a sound or a picture');
