import type { Shot } from '@varrup/core';
import type { Job } from './made.ts';

/** The shots jobs were made of, as they were then: what a file is compared with. */
const shots = new Map<number, Shot>();

export const rememberShot = (id: number, shot: Shot): void => void shots.set(id, shot);
export const forgetShot = (id: number): void => void shots.delete(id);
export const shotOf = ({ id }: Job): Shot | undefined => shots.get(id);
