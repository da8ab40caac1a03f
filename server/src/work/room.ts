import { statfs } from 'node:fs/promises';
import { Refused } from '../http/refusal.ts';

/** How the disk stands on which the database lies: `low` is told of, `full` takes no more. */
export type RoomState = 'enough' | 'low' | 'full';

/** Below so many bytes the desk warns. */
const LOW = 512e6;
/** So many bytes are left free: the database writes its log ahead in pieces of 16 MB, and where it cannot it ends. */
const LEFT_FREE = 64e6;
/** What is put in is written to the log and to its place, and again when that is tidied. */
const WRITTEN = 4;
const LOOK_EVERY = 500;

/** Watches the room on the database's disk, so that the last of it is never used: then reading goes on, and saving when there is room again. */
export class Room {
  readonly #folder: string | null;
  readonly #timer: NodeJS.Timeout;
  #free = Number.POSITIVE_INFINITY;

  /** @param folder one on that disk; null where it is not known */
  constructor(folder: string | null) {
    this.#folder = folder;
    this.#timer = setInterval(() => void this.look(), LOOK_EVERY).unref();
  }

  /** Looks how much there is now. */
  async look(): Promise<void> {
    if (this.#folder === null) return;
    const disk = await statfs(this.#folder).catch(() => null);
    if (disk) this.#free = disk.bavail * disk.bsize;
  }

  close(): void {
    clearInterval(this.#timer);
  }

  /** Free bytes; infinite where that is not known. */
  get free(): number {
    return this.#free;
  }

  get state(): RoomState {
    if (this.#free < LEFT_FREE) return 'full';
    return this.#free < LOW ? 'low' : 'enough';
  }

  /** @param bytes what is to be put in @throws Refused (507) where there is no room for it */
  require(bytes = 0): void {
    const needed = LEFT_FREE + bytes * WRITTEN;
    if (this.#free >= needed) return;
    const [free, wanted] = [this.#free, needed].map((n) => Math.ceil(n / 1e6));
    throw new Refused(
      507,
      `The server's disk is full: ${free} MB are free, and ${wanted} MB are needed. What was saved is kept, and saving goes on when there is room.`,
    );
  }
}
