import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { MOST_FILE_BYTES } from '@nockwright/contract/documents';
import type { FileView, OrderView, PaperView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { DayPipe, MAIL_STATES } from '../paper';
import { PAPER_NAMES } from './mail-form';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

/** The papers that were told about an order, to whom each was mailed, and the files attached to it. */
@Component({
  selector: 'nock-order-papers',
  imports: [MatButton, RouterLink, DayPipe],
  template: `
    @let view = order();
    @if (view.papers.length > 0 || mayPrint()) {
      <h3>Papers</h3>
    }
    <ul>
      @for (paper of view.papers; track paper.id) {
        <li>
          <a [href]="'/api/papers/' + paper.id" target="_blank" rel="noopener">{{ names[paper.kind] }}{{ revision(view, paper) }}</a>
          <span class="quiet small">{{ paper.at.slice(0, 10) | day }}</span>
          @for (mail of paper.mails; track mail.id) {
            <a class="mail small" routerLink="/mail" [queryParams]="{ at: mail.id }" [class.failed]="mail.state === 'failed'"
              >{{ words[mail.state] }}: {{ mail.recipients.join(', ') }}</a
            >
          } @empty {
            <span class="small" [class.failed]="outdates(view, paper)" [class.quiet]="!outdates(view, paper)">{{
              outdates(view, paper) ? 'not mailed: what they hold is no longer so' : 'not mailed'
            }}</span>
          }
        </li>
      }
    </ul>
    @if (mayPrint()) {
      <p class="do">
        @if (view.papers.length > 0) {
          <button mat-button type="button" (click)="mailed.emit()">Mail paper <kbd>W</kbd></button>
        }
        @if (view.lines.length > 0) {
          <button mat-button type="button" (click)="standing.makeProForma()" [disabled]="store.busy()">Make a pro forma</button>
        }
      </p>
    }
    @if (view.files.length > 0 || maySell()) {
      <h3>Files</h3>
      <ul>
        @for (file of view.files; track file.id) {
          <li>
            <a [href]="'/api/files/' + file.id" download>{{ file.name }}</a>&ngsp;<span class="quiet small">{{ size(file) }}, {{ file.by }}</span>
            @if (maySell()) {
              <button mat-button type="button" (click)="standing.removeFile(file.id)" [attr.aria-label]="'Remove ' + file.name">Remove</button>
            }
          </li>
        }
      </ul>
    }
    @if (maySell() && view.state !== 'discarded') {
      <p class="do">
        <input #chosen type="file" id="order-file" class="visually-hidden" (change)="attach(chosen)" tabindex="-1" aria-hidden="true" />
        <button mat-button type="button" (click)="chosen.click()">Attach a file</button>
      </p>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      padding: 2px 0;
    }
    li .quiet {
      margin-left: 6px;
    }
    .mail {
      display: block;
      overflow-wrap: anywhere;
    }
    .failed {
      color: var(--open);
      font-weight: 600;
    }
    .do {
      margin: 2px 0 0 -10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderPapers {
  protected readonly store = inject(OrderStore);
  protected readonly standing = inject(OrderStanding);
  protected readonly maySell = inject(Session).maySell;
  readonly order = input.required<OrderView>();
  /** The newest paper is to be mailed. */
  readonly mailed = output<void>();
  protected readonly names = PAPER_NAMES;
  protected readonly words = MAIL_STATES;

  /** Of several of a kind, which it is. */
  protected revision({ papers }: OrderView, paper: PaperView): string {
    const number = papers.filter((other) => other.kind === paper.kind && other.id <= paper.id).length;
    return paper.kind === 'acknowledgement' && number > 1 ? `, revision ${number}` : '';
  }

  /** The customer holds an older one, and was not sent this. */
  protected outdates({ papers }: OrderView, paper: PaperView): boolean {
    const ofKind = papers.filter((other) => other.kind === paper.kind);
    return paper.kind === 'acknowledgement' && ofKind[0] === paper && ofKind.slice(1).some((other) => other.mails.length > 0);
  }

  protected mayPrint(): boolean {
    return this.maySell() && !['discarded', 'lost'].includes(this.order().state) && this.order().lines.length > 0;
  }

  protected size({ size }: FileView): string {
    return size < 1024 ? `${size} bytes` : size < 1024 * 1024 ? `${Math.round(size / 1024)} kB` : `${(size / 1024 / 1024).toFixed(1)} MB`;
  }

  protected attach(field: HTMLInputElement): void {
    const file = field.files?.[0];
    if (!file) return;
    if (file.size > MOST_FILE_BYTES) this.store.fault.set(`${file.name} has ${(file.size / 1024 / 1024).toFixed(1)} MB; at most 5 MB are taken.`);
    else {
      const reader = new FileReader();
      reader.onload = () => this.standing.attachFile(file.name, String(reader.result).split(',')[1] ?? '');
      reader.onerror = () => this.store.fault.set(`${file.name} cannot be read.`);
      reader.readAsDataURL(file);
    }
    // The same file may be chosen again after it was refused.
    field.value = '';
  }
}
