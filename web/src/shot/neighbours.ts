/** Other windows of this browser on the same shot: they tell each other that they are there and what was committed. */
type Message = { type: 'hello' | 'here' | 'bye'; from: string } | { type: 'committed'; from: string; revision: number };

export class Neighbours {
  readonly #channel: BroadcastChannel;
  readonly #me: string;
  readonly #others = new Set<string>();

  constructor(shot: string, me: string, on: { count(n: number): void; committed(revision: number): void }) {
    this.#me = me;
    this.#channel = new BroadcastChannel(`varrup-shot-${shot}`);
    this.#channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.type === 'bye') this.#others.delete(data.from);
      else this.#others.add(data.from);
      if (data.type === 'hello') this.#post({ type: 'here', from: me });
      if (data.type === 'committed') on.committed(data.revision);
      on.count(this.#others.size);
    };
    this.#post({ type: 'hello', from: me });
    addEventListener('pagehide', this.#leave);
  }

  committed(revision: number): void {
    this.#post({ type: 'committed', from: this.#me, revision });
  }

  close(): void {
    this.#leave();
    removeEventListener('pagehide', this.#leave);
    this.#channel.close();
  }

  #leave = (): void => this.#post({ type: 'bye', from: this.#me });

  #post(message: Message): void {
    this.#channel.postMessage(message);
  }
}
