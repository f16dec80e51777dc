import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, signal, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';

/** Where a customer signs with a finger or a pen. What was signed is a picture. */
@Component({
  selector: 'nock-signature-pad',
  imports: [MatButton],
  template: `
    <canvas
      #pad
      width="440"
      height="120"
      role="img"
      aria-label="Signature"
      (pointerdown)="begin($event)"
      (pointermove)="draw($event)"
      (pointerup)="end()"
      (pointerleave)="end()"
    ></canvas>
    @if (signed()) {
      <button mat-button type="button" (click)="clear()">Clear signature</button>
    }
  `,
  styles: `
    canvas {
      width: 100%;
      max-width: 440px;
      border: 1px solid var(--rule);
      background: #fff;
      touch-action: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignaturePad {
  private readonly pad = viewChild.required<ElementRef<HTMLCanvasElement>>('pad');
  private drawing = false;
  protected readonly signed = signal(false);

  /** PNG in base64; null: nobody has signed. */
  picture(): string | null {
    return this.signed() ? (this.pad().nativeElement.toDataURL('image/png').split(',')[1] ?? null) : null;
  }

  clear(): void {
    const canvas = this.pad().nativeElement;
    canvas.getContext('2d')?.clearRect(0, 0, canvas.width, canvas.height);
    this.signed.set(false);
  }

  protected begin(event: PointerEvent): void {
    this.drawing = true;
    const context = this.pad().nativeElement.getContext('2d');
    context?.beginPath();
    context?.moveTo(...this.at(event));
  }

  protected draw(event: PointerEvent): void {
    const context = this.pad().nativeElement.getContext('2d');
    if (!this.drawing || !context) return;
    context.lineWidth = 2;
    context.lineTo(...this.at(event));
    context.stroke();
    this.signed.set(true);
  }

  protected end(): void {
    this.drawing = false;
  }

  private at({ offsetX, offsetY }: PointerEvent): [number, number] {
    const canvas = this.pad().nativeElement;
    return [(offsetX * canvas.width) / canvas.clientWidth, (offsetY * canvas.height) / canvas.clientHeight];
  }
}
