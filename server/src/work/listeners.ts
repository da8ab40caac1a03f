import type { Present } from '@varrup/core';
import type { Response } from 'express';

/** As many windows may listen to one shot. */
const MOST = 100;
/** So often something is sent where nothing happens, so that a line that has broken is noticed. */
const STILL_HERE = 20_000;

/** Windows that listen to what happens to a shot: that it has changed, and who else is there. Sent as server-sent events. */
export class Listeners {
  readonly #rooms = new Map<string, Map<Response, Present>>();
  readonly #heartbeat = setInterval(() => this.#sayAll(': still here\n\n'), STILL_HERE).unref();

  close(): void {
    clearInterval(this.#heartbeat);
    for (const room of this.#rooms.values()) for (const response of room.keys()) response.end();
  }

  /**
   * Lets a window listen until it goes. The revision as it is now comes at once: who has been away hears whether something was missed.
   * @returns whether there was room
   */
  join(shot: string, who: Pick<Present, 'window' | 'person'>, revision: number, response: Response): boolean {
    const room = this.#rooms.get(shot) ?? new Map<Response, Present>();
    if (room.size >= MOST) return false;
    this.#rooms.set(shot, room);
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    response.flushHeaders();
    response.write(changed(revision));
    room.set(response, { ...who, picked: [] });
    response.once('close', () => {
      room.delete(response);
      if (room.size === 0) this.#rooms.delete(shot);
      this.#tellWhoIsThere(shot);
    });
    this.#tellWhoIsThere(shot);
    return true;
  }

  /** A shot has got to a revision. */
  changed(shot: string, revision: number): void {
    for (const response of this.#rooms.get(shot)?.keys() ?? []) response.write(changed(revision));
  }

  /** A window has picked others. */
  picks(shot: string, window: string, picked: string[]): void {
    const room = this.#rooms.get(shot);
    for (const [response, present] of room ?? [])
      if (present.window === window) room!.set(response, { ...present, picked });
    this.#tellWhoIsThere(shot);
  }

  #tellWhoIsThere(shot: string): void {
    const room = this.#rooms.get(shot);
    if (!room) return;
    const text = `event: here\ndata: ${JSON.stringify([...room.values()])}\n\n`;
    for (const response of room.keys()) response.write(text);
  }

  #sayAll(text: string): void {
    for (const room of this.#rooms.values()) for (const response of room.keys()) response.write(text);
  }
}

const changed = (revision: number) => `event: changed\nid: ${revision}\ndata: ${revision}\n\n`;
