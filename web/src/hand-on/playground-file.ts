import { create } from 'zustand';
import { commandOf } from '../commands/list.ts';
import type { Job } from './made.ts';

/** What the playground shows: the first file of something that was made. */
export const usePlaygroundFile = create<{ readonly job: Job | null }>(() => ({ job: null }));

/** Has the playground play what was made. */
export function showInPlayground(job: Job): void {
  usePlaygroundFile.setState({ job });
  commandOf('view.playground').run();
}
