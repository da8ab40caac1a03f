import { gainAt, heardPart, heardSeconds, type PlacedSound, SAMPLE_RATE, type Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { isPassed } from './passed.ts';
import { samplesNow } from './recordings.ts';

/** How much is heard of a frame that is scrubbed over, in seconds. */
const SCRUB = 0.12;

/** What is to be known of a sound to hear it. */
type Heard = Pick<PlacedSound, 'sound' | 'gain' | 'part' | 'fade'>;

/** Plays the shot's sounds: whole while it plays, a moment of them while it is scrubbed. */
class Player {
  #context: AudioContext | null = null;
  readonly #buffers = new WeakMap<Float32Array, AudioBuffer>();
  readonly #running = new Set<AudioBufferSourceNode>();
  #last = Number.NaN;
  #wasPlaying = false;

  /** Follows the play head from now until what it returns is called. */
  follow(): () => void {
    const end = usePlayhead.subscribe((now, old) => {
      if (now.playing !== old.playing || now.frame !== old.frame) this.#step(now.frame, now.playing);
    });
    return () => {
      end();
      this.#silence();
    };
  }

  /** Plays a placed sound, as it is heard in the shot. */
  hear(sound: Heard): void {
    this.#start(sound, 0, heardSeconds(sound));
  }

  #step(frame: number, playing: boolean): void {
    const { shot } = useShot.getState();
    const begun = playing && !this.#wasPlaying;
    const ended = !playing && this.#wasPlaying;
    const last = this.#last;
    this.#wasPlaying = playing;
    this.#last = frame;
    if (ended) this.#silence();
    if (!shot || useHabits.getState().muted || shot.sounds.size === 0 || ended) return;
    for (const sound of shot.sounds.values()) {
      if (!playing) this.#scrub(shot, sound, frame);
      else if (begun) this.#play(shot, sound, frame);
      else if (isPassed(sound.frame, last, frame, shot)) this.hear(sound);
    }
  }

  /** Begins a sound in its middle where it has begun before. */
  #play(shot: Shot, sound: PlacedSound, frame: number): void {
    const gone = (frame - sound.frame) / shot.rate;
    const length = heardSeconds(sound);
    if (gone >= 0 && gone < length) this.#start(sound, gone, length - gone);
  }

  #scrub(shot: Shot, sound: PlacedSound, frame: number): void {
    const gone = (frame - sound.frame) / shot.rate;
    if (gone >= 0 && gone < heardSeconds(sound)) this.#start(sound, gone, SCRUB);
  }

  /** @param gone seconds of what is heard of it that have gone by @param seconds how much of it is played */
  #start(sound: Heard, gone: number, seconds: number): void {
    const samples = samplesNow(sound.sound);
    // One that was brought in may not be there yet.
    if (samples.length === 0) return;
    this.#context ??= new AudioContext({ sampleRate: SAMPLE_RATE });
    const context = this.#context;
    // Browsers let a page be heard only after somebody has touched it.
    if (context.state === 'suspended') void context.resume();
    const source = context.createBufferSource();
    source.buffer = this.#buffer(context, samples);
    const heard = heardPart(sound, samples.length / SAMPLE_RATE);
    const offset = heard.from + gone;
    const length = Math.min(seconds, heard.until - offset);
    if (length <= 0) return;
    const volume = context.createGain();
    const begin = context.currentTime - offset;
    const end = offset + length;
    volume.gain.setValueAtTime(gainAt(sound, heard, offset), begin + offset);
    const { fade = { in: 0, out: 0 } } = sound;
    // What is cut off goes within a moment, so that it does not click.
    for (const at of [heard.from + fade.in, heard.until - fade.out, end - 0.02].sort((a, b) => a - b))
      if (at > offset && at < end) volume.gain.linearRampToValueAtTime(gainAt(sound, heard, at), begin + at);
    volume.gain.linearRampToValueAtTime(0, begin + end);
    source.connect(volume).connect(context.destination);
    source.start(0, offset, length);
    this.#running.add(source);
    source.onended = () => this.#running.delete(source);
  }

  #buffer(context: AudioContext, samples: Float32Array): AudioBuffer {
    const known = this.#buffers.get(samples);
    if (known) return known;
    const buffer = context.createBuffer(1, samples.length, SAMPLE_RATE);
    buffer.copyToChannel(new Float32Array(samples), 0);
    this.#buffers.set(samples, buffer);
    return buffer;
  }

  #silence(): void {
    for (const source of this.#running) source.stop();
    this.#running.clear();
  }
}

export const player = new Player();
