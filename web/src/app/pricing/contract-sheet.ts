import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatOption, MatSelect } from '@angular/material/select';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import type { CustomerFound } from '@nockwright/contract/customers';
import type { ContractBuyer, ContractLineView } from '@nockwright/contract/pricing';
import { readContractLines, writeContractLines, type SheetLine } from '@nockwright/core/pricing';
import { unitName } from '@nockwright/core/units';
import { Session } from '../access';
import { AmountPipe, DayField, DayPipe, History, Keys, PricePipe, rowKey, Sheet } from '../paper';
import { BuyerField } from './buyer-field';
import { ContractStore } from './contract-store';
import { PastePanel } from './paste-panel';

/** A contract: who buys under it, what each line asks, what is used of it and what it did to margin. */
@Component({
  selector: 'nock-contract-sheet',
  imports: [
    RouterLink,
    MatButton,
    MatFormField,
    MatInput,
    MatOption,
    MatSelect,
    AmountPipe,
    BuyerField,
    DayField,
    DayPipe,
    History,
    PastePanel,
    PricePipe,
    Sheet,
  ],
  providers: [ContractStore],
  templateUrl: './contract-sheet.html',
  styleUrl: './contract-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContractSheet {
  protected readonly store = inject(ContractStore);
  private readonly clipboard = inject(Clipboard);
  private readonly snack = inject(MatSnackBar);
  protected readonly mayWrite = inject(Session).mayPlan;
  readonly id = input.required({ transform: numberAttribute });

  protected readonly states = { in_force: 'in force', coming: 'not in force yet', ended: 'ended' } as const;
  protected readonly reader = readContractLines;
  protected readonly at = signal<number | null>(null);
  protected readonly selected = computed(() => this.store.contract()?.lines.find((line) => line.id === this.at()) ?? null);
  /** What is being pasted; null: nothing. */
  protected readonly pasting = signal<string | null>(null);

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => this.store.open(id));
    });
    inject(Keys).use([
      { key: 'V', does: 'paste lines from a spreadsheet', run: () => this.paste('') },
      { key: 'C', does: 'copy the lines for a spreadsheet', run: () => this.copy() },
    ]);
  }

  /** `a tray`, `each`. */
  protected per(line: ContractLineView): string {
    const name = unitName(line.unit ?? '', '1');
    return name === 'each' ? name : `a ${name}`;
  }

  /** How much of its most is bought, in percent. */
  protected share(line: ContractLineView): number {
    return line.most === null ? 0 : Math.floor((Number(line.used) * 100) / Number(line.most));
  }

  protected rename(name: string): void {
    const wanted = name.trim();
    if (wanted === '') this.store.fault.set('A contract needs a name.');
    else if (wanted !== this.store.contract()?.name) this.store.change({ name: wanted });
  }

  protected add({ id }: CustomerFound): void {
    const buyers = this.buyers();
    if (buyers.some((buyer) => buyer.customer === id && buyer.shipTo === null))
      return this.store.fault.set('They buy under it already, at every address. Choose one address for it first.');
    this.store.change({ buyers: [...buyers, { customer: id, shipTo: null }] });
  }

  /** There is something to choose: they have several addresses. */
  protected mayChoose(buyer: ContractBuyer): boolean {
    return this.mayWrite() && (buyer.places.length > 1 || buyer.shipTo !== null);
  }

  /** Has the contract hold for one address of a buyer's, or for all (null). */
  protected limit(of: ContractBuyer, place: number | null): void {
    const changed = this.buyers().map((buyer) =>
      buyer.customer === of.customer && buyer.shipTo === (of.shipTo?.id ?? null) ? { customer: buyer.customer, shipTo: place } : buyer,
    );
    this.store.change({ buyers: changed });
  }

  protected drop(gone: ContractBuyer): void {
    const same = (buyer: { customer: number; shipTo: number | null }) => buyer.customer === gone.customer && buyer.shipTo === (gone.shipTo?.id ?? null);
    this.store.change({ buyers: this.buyers().filter((buyer) => !same(buyer)) });
  }

  protected paste(text: string): boolean {
    if (!this.mayWrite() || this.pasting() !== null) return false;
    this.store.fault.set('');
    this.pasting.set(text);
    return true;
  }

  protected copy(): boolean {
    const contract = this.store.contract();
    if (!contract) return false;
    this.clipboard.copy(writeContractLines(contract.lines));
    this.snack.open(`${contract.lines.length} lines copied: paste them into a spreadsheet.`, undefined, { duration: 4000 });
    return true;
  }

  protected write(rows: readonly SheetLine[], all: boolean): void {
    this.store.write(rows, all, () => {
      this.pasting.set(null);
      this.snack.open(`${rows.length} lines written.`, undefined, { duration: 4000 });
    });
  }

  /** Enter changes a line as text: its row as it would be pasted. */
  protected key(event: KeyboardEvent, line: ContractLineView): void {
    rowKey(event, () => this.paste(writeContractLines([line])));
  }

  private buyers(): { customer: number; shipTo: number | null }[] {
    return (this.store.contract()?.buyers ?? []).map(({ customer, shipTo }) => ({ customer, shipTo: shipTo?.id ?? null }));
  }
}
