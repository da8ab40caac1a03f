import type { AutoKey } from '@varrup/core';
import { create } from 'zustand';

/** Whether what is changed is keyed at once. */
export const useAutoKey = create<{ readonly mode: AutoKey }>(() => ({ mode: 'off' }));
