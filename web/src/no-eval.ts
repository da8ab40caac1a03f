import { z } from 'zod';

// The page's policy lets no text be run as script. Schemas would try whether it does, and the browser reports each try as an attack.
z.config({ jitless: true });
