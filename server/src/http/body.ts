import express from 'express';

/** Each route says which body it takes; without one of these a body is not even read. */

/** Names and the like. */
export const smallBody = express.json({ limit: '16kb' });

/** A pose: every channel of a rig, once. */
export const poseBody = express.json({ limit: '512kb' });

/** Documents and edits: a shot of 200,000 keys with all their handles is some 40 MB. */
export const documentBody = express.json({ limit: '64mb' });

export const pictureBody = express.raw({ type: () => true, limit: '1mb' });
