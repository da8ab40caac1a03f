import * as fc from 'fast-check';

/**
 * Properties are tried on the same examples in every run, so that what failed fails again, and nothing lands by luck or not at
 * all by its absence. `npm run dice` tries them on others.
 */
fc.configureGlobal({ seed: Number(process.env.VARRUP_SEED ?? 1129) });
