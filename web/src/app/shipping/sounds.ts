import { Injectable } from '@angular/core';

/** A high short sound for what is right, a low long one for what is wrong: whoever scans looks at the goods. */
@Injectable({ providedIn: 'root' })
export class Sounds {
  private context: AudioContext | null = null;

  right(): void {
    this.play(1_320, 0.07);
  }

  wrong(): void {
    this.play(220, 0.4);
  }

  private play(frequency: number, seconds: number): void {
    if (typeof AudioContext === 'undefined') return;
    this.context ??= new AudioContext();
    const { context } = this;
    const [tone, level] = [context.createOscillator(), context.createGain()];
    tone.frequency.value = frequency;
    level.gain.value = 0.12;
    tone.connect(level).connect(context.destination);
    tone.start();
    tone.stop(context.currentTime + seconds);
  }
}
