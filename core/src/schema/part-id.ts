import { z } from 'zod';

/** The id of a part of a rig: short, letters and digits, a letter first. */
export const PartIdSchema = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,27}$/, 'is not the id of a part of a rig');
