import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { OrderView } from '@nockwright/contract/orders';
import { letterFor } from '@nockwright/core/orders';
import { switchMap } from 'rxjs';
import { Session } from '../access';
import { GlossForm, TextField, isEmail } from '../paper';
import { CustomerTerms } from './customer-terms';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

/** What a paper is called on the desk. */
export const PAPER_NAMES = { acknowledgement: 'Acknowledgement', quote: 'Quote', pro_forma: 'Pro forma' } as const;

/** Mails the newest paper of the order: to whom, with what words, with which files. The words are there to be changed. */
@Component({
  selector: 'nock-mail-form',
  imports: [GlossForm, MatButton, MatCheckbox, MatFormField, MatInput, TextField],
  template: `
    <nock-gloss-form heading="Mail the {{ name() }}" act="Send mail" [ready]="!store.busy()" (done)="send()" (left)="closed.emit()">
      <nock-text-field fieldId="mail-to" [(text)]="recipients" (keydown.enter)="$event.preventDefault()">To</nock-text-field>
      @for (contact of offered(); track contact.id) {
        <button mat-button type="button" (click)="add(contact.email)">Add {{ contact.name }}{{ contact.role ? ', ' + contact.role : '' }}</button>
      }
      <nock-text-field fieldId="mail-subject" [most]="200" [(text)]="subject" (keydown.enter)="$event.preventDefault()">Subject</nock-text-field>
      <label for="mail-text">Text</label>
      <mat-form-field>
        <textarea matInput #words id="mail-text" rows="12" maxlength="10000" [value]="text()" (input)="text.set(words.value)"></textarea>
      </mat-form-field>
      @for (file of order().files; track file.id) {
        <mat-checkbox [checked]="files().has(file.id)" (change)="attach(file.id, $event.checked)">with {{ file.name }}</mat-checkbox>
      }
      @if (fault()) {
        <p class="open" role="alert">{{ fault() }}</p>
      }
    </nock-gloss-form>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
    mat-checkbox {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MailForm {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  private readonly session = inject(Session);
  readonly order = input.required<OrderView>();
  readonly closed = output<void>();

  private readonly paper = computed(() => this.order().papers[0]!);
  private readonly paperId = computed(() => this.paper().id);
  protected readonly name = computed(() => PAPER_NAMES[this.paper().kind].toLowerCase());
  private readonly letter = computed(() => {
    const { number, poNumber, customer, spoken, validUntil } = this.order();
    const { kind } = this.paper();
    const { session } = this;
    const facts = { kind, number, poNumber, contact: customer.contact, spoken, validUntil, by: session.user()?.name ?? '', firm: session.firm() };
    return letterFor(facts, session.today());
  });
  // What is typed stays while the order changes below it; another paper begins anew.
  protected readonly recipients = linkedSignal({ source: this.paperId, computation: () => untracked(this.order).customer.email });
  protected readonly subject = linkedSignal({ source: this.paperId, computation: () => untracked(this.letter).subject });
  protected readonly text = linkedSignal({ source: this.paperId, computation: () => untracked(this.letter).text });
  private readonly terms = inject(CustomerTerms);
  private readonly contacts = toSignal(toObservable(computed(() => this.order().customer.id)).pipe(switchMap((customer) => this.terms.contacts(customer))), {
    initialValue: [],
  });
  /** Whom the customer has at whose address it could go too. */
  protected readonly offered = computed(() => {
    const typed = this.recipients().toLowerCase();
    return this.contacts().filter(({ email }) => email !== '' && !typed.includes(email.toLowerCase()));
  });
  protected readonly files = signal<ReadonlySet<number>>(new Set());
  protected readonly fault = signal('');

  protected add(address: string): void {
    this.recipients.update((typed) => [...addressesOf(typed), address].join(', '));
  }

  protected attach(file: number, wanted: boolean): void {
    const files = new Set(this.files());
    if (wanted) files.add(file);
    else files.delete(file);
    this.files.set(files);
  }

  protected send(): void {
    const recipients = addressesOf(this.recipients());
    const wrong = recipients.filter((address) => !isEmail(address));
    if (recipients.length === 0) return this.fault.set('To whom?');
    if (wrong.length > 0) return this.fault.set(`${wrong.join(', ')}: expected an address as name@place.example.`);
    if (this.subject().trim() === '') return this.fault.set('What is it about? Type a subject.');
    this.fault.set('');
    const body = { paper: this.paperId(), recipients, subject: this.subject().trim(), text: this.text(), files: [...this.files()] };
    this.standing.mail(body, () => this.closed.emit());
  }
}

function addressesOf(text: string): string[] {
  return text.split(/[\s,;]+/).filter(Boolean);
}
