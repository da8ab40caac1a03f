import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { z } from 'zod';

/** What a piece of media is known by: the SHA-256 of its bytes. */
export const MediaHashSchema = z.string().regex(/^[0-9a-f]{64}$/, 'is not the hash of a piece of media');

/** Bytes by their hash. */
export type Media = ReadonlyMap<string, Uint8Array>;

export const mediaHash = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));
