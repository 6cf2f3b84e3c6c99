/** The bench's own tones: two soft steps up for due, three down for overdue, a see-saw for danger. */
import type { AlarmLevel } from '@cork-ember/core/runsheet/plan/alarm.ts';
import { idle } from '../api/gently.ts';

/** Hertz and seconds; made to carry over a compressor without hurting. */
const TONES: Record<AlarmLevel, readonly (readonly [hertz: number, seconds: number])[]> = {
  due: [
    [523, 0.16],
    [659, 0.26],
  ],
  overdue: [
    [784, 0.18],
    [659, 0.18],
    [523, 0.3],
  ],
  danger: [
    [988, 0.22],
    [740, 0.22],
    [988, 0.22],
    [740, 0.22],
    [988, 0.22],
    [740, 0.22],
  ],
};
const LOUDNESS: Record<AlarmLevel, number> = { due: 0.25, overdue: 0.4, danger: 0.8 };

let context: AudioContext | undefined;

/** Opening the way to the loudspeaker takes a while: done while nobody wants anything, not under the first key. */
export async function prepareSound(): Promise<void> {
  await idle();
  context ??= new AudioContext();
}

/** Browsers let sound out only after a key or a tap: call this from one. */
export function wakeSound(): void {
  context ??= new AudioContext();
  if (context.state === 'suspended') void context.resume();
}

/** Whether a tone would be heard. */
export const isSoundAwake = (): boolean => context?.state === 'running';

export function play(level: AlarmLevel): void {
  if (!context || context.state !== 'running') return;
  let at = context.currentTime + 0.02;
  for (const [hertz, seconds] of TONES[level]) {
    const tone = context.createOscillator();
    const volume = context.createGain();
    tone.type = level === 'danger' ? 'square' : 'triangle';
    tone.frequency.value = hertz;
    volume.gain.setValueAtTime(0, at);
    volume.gain.linearRampToValueAtTime(LOUDNESS[level], at + 0.02);
    volume.gain.linearRampToValueAtTime(0, at + seconds);
    tone.connect(volume).connect(context.destination);
    tone.start(at);
    tone.stop(at + seconds);
    at += seconds;
  }
}
