import { z } from 'zod';

/** The id of a channel within its member. */
export const ChannelIdSchema = z.string().regex(/^[a-z][A-Za-z0-9.-]{0,59}$/, 'is not the name of a channel');

/** The path of a channel, `memberId.channelId`, as records of curves are filed under. */
export const PathSchema = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9-]{0,39}\.[a-z][A-Za-z0-9.-]{0,59}$/, 'is not a channel path');
