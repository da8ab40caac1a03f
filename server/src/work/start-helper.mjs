// A thread does not inherit what lets Node read TypeScript.
import { register } from 'tsx/esm/api';

register();
await import('./helper.ts');
