import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { consignmentRoutes, shippingRoutes, type CartonTypeView, type CartonView, type PartView } from '@nockwright/contract/shipping';
import { Session } from '../../access';
import { Api } from '../../api';
import { AmountPipe, CustomerName, DayPipe, Keys, ListChoice, QuantityField, ScanInput, Sheet, TextField, UnitPipe, type Choice, focusOnce } from '../../paper';
import { ConsignmentStore } from '../consignment-store';
import { Sounds } from '../sounds';
import { TRACKED } from '../tracked-words';
import { CarrierOffers } from './carrier-offers';
import { CartonBox } from './carton-box';

/** The bench: what was picked goes into cartons by scanning, gets its label and leaves. */
@Component({
  selector: 'nock-pack-sheet',
  imports: [
    RouterLink,
    MatButton,
    AmountPipe,
    DayPipe,
    UnitPipe,
    CustomerName,
    ListChoice,
    QuantityField,
    ScanInput,
    Sheet,
    TextField,
    CarrierOffers,
    CartonBox,
  ],
  providers: [ConsignmentStore],
  templateUrl: './pack-sheet.html',
  styleUrl: './pack-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PackSheet {
  protected readonly store = inject(ConsignmentStore);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly sounds = inject(Sounds);
  protected readonly session = inject(Session);
  private readonly field = viewChild(ScanInput);
  readonly id = input.required({ transform: numberAttribute });
  protected readonly TRACKED = TRACKED;

  protected readonly types = signal<readonly CartonTypeView[]>([]);
  protected readonly type = signal('');
  protected readonly typeChoices = computed((): readonly Choice[] => this.types().map((row) => [row.code, row.name] as const));
  protected readonly count = signal('1');
  /** What the last scan did, or what was wrong with it. */
  protected readonly said = signal<{ readonly right: boolean; readonly words: string } | null>(null);
  protected readonly tracking = signal('');
  protected readonly reason = signal('');
  protected readonly choosesService = signal(false);
  private readonly chosenCarton = signal<number | null>(null);

  protected readonly view = this.store.view;
  protected readonly inHouse = computed(() => this.view()?.state === 'picking');
  protected readonly left = computed(() => (this.view()?.parts ?? []).filter((part) => part.packed !== part.quantity));
  /** The carton that scans go into: the one chosen, or the last that is open. */
  protected readonly carton = computed((): CartonView | null => {
    const open = (this.view()?.cartons ?? []).filter((row) => row.weight === null);
    return open.find((row) => row.id === this.chosenCarton()) ?? open.at(-1) ?? null;
  });
  protected readonly mayMove = this.session.mayMove;

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => this.store.open(id));
    });
    this.api.call(consignmentRoutes.cartonTypes).subscribe((types) => this.types.set(types));
    effect(() => {
      const proposed = this.store.proposal()?.cartons[0]?.type ?? (this.store.proposal()?.alone.length ? 'OWN' : undefined);
      untracked(() => this.type.set(proposed ?? this.types().find((row) => row.code !== 'OWN')?.code ?? ''));
    });
    focusOnce(this.field);
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'the main act: pack as proposed, make the label, confirm the shipment', run: () => this.mainAct() },
      { key: 'Ctrl+K', does: 'open a carton', run: () => this.openCarton() },
      { key: 'W', does: 'weigh and close the carton', run: () => this.carton() !== null && this.weigh(this.carton()!) },
      { key: 'Ctrl+L', does: 'compare carriers', run: () => this.choosesService.set(!this.choosesService()) },
      { key: 'Escape', does: 'back to shipping', run: () => this.leave() },
    ]);
  }

  protected of(part: PartView): string {
    return this.view()?.shipments.find((row) => row.id === part.shipment)?.number ?? '';
  }

  protected missing(part: PartView): string {
    return String(Number(part.quantity) - Number(part.packed));
  }

  protected scan(text: string): void {
    const carton = this.carton();
    if (!carton) {
      this.sounds.wrong();
      this.said.set({ right: false, words: 'Open a carton first.' });
      return;
    }
    this.store.run(
      () => this.api.call(consignmentRoutes.scan, { params: { carton: carton.id }, body: { scan: text, count: this.count() || '1' } }),
      ({ ok, words, consignment }) => {
        this.store.show(consignment);
        this.said.set({ right: ok, words });
        if (ok) {
          this.sounds.right();
          this.count.set('1');
          this.field()?.clear();
        } else {
          this.sounds.wrong();
          this.field()?.refuse(words);
        }
        this.field()?.focus();
      },
    );
  }

  protected openCarton(): void {
    if (this.type() === '') return;
    this.store.change(
      (view) => this.api.call(consignmentRoutes.openCarton, { params: { consignment: view.id }, body: { type: this.type() } }),
      (view) => {
        this.chosenCarton.set(view.cartons.at(-1)?.id ?? null);
        setTimeout(() => this.field()?.focus());
      },
    );
  }

  protected choose(carton: CartonView): void {
    this.chosenCarton.set(carton.id);
  }

  /** The scale is a stand-in: it shows what the carton should weigh. */
  protected weigh(carton: CartonView, weight = carton.expected, confirm: 'yes' | 'no' = 'no'): void {
    this.store.change(() => this.api.call(consignmentRoutes.closeCarton, { params: { carton: carton.id }, body: { weight, confirm } }));
  }

  protected reopen(carton: CartonView): void {
    this.store.change(() => this.api.call(consignmentRoutes.reopenCarton, { params: { carton: carton.id }, body: {} }));
  }

  protected remove(carton: CartonView): void {
    this.store.change(() => this.api.call(consignmentRoutes.removeCarton, { params: { carton: carton.id }, body: {} }));
  }

  protected takeOut(carton: CartonView, goods: { readonly part: number; readonly quantity: string; readonly serial?: string }): void {
    this.store.change(() => this.api.call(consignmentRoutes.takeOut, { params: { carton: carton.id }, body: goods }));
  }

  protected packProposed(): void {
    this.store.change(({ id, version }) => this.api.call(consignmentRoutes.packProposed, { params: { consignment: id }, body: { version } }));
  }

  protected join(other: number): void {
    this.store.change(({ id, version }) => this.api.call(consignmentRoutes.join, { params: { consignment: id }, body: { version, with: other } }));
  }

  protected split(shipment: number): void {
    this.store.change(({ id, version }) => this.api.call(consignmentRoutes.split, { params: { consignment: id }, body: { version, shipment } }));
  }

  protected setService(service: string): void {
    this.store.change(
      ({ id, version }) => this.api.call(consignmentRoutes.setService, { params: { consignment: id }, body: { version, service } }),
      () => this.choosesService.set(false),
    );
  }

  protected requestLabel(): void {
    this.store.change(({ id }) => this.api.call(consignmentRoutes.requestLabel, { params: { consignment: id }, body: {} }));
  }

  protected voidLabel(): void {
    this.store.change(({ id }) => this.api.call(consignmentRoutes.voidLabel, { params: { consignment: id }, body: {} }));
  }

  protected ship(): void {
    this.store.change(({ id, version }) =>
      this.api.call(consignmentRoutes.shipConsignment, { params: { consignment: id }, body: { version, tracking: this.tracking() } }),
    );
  }

  protected undo(): void {
    const reason = this.reason().trim() || 'it has not left';
    this.store.change(({ id }) => this.api.call(consignmentRoutes.undoShipment, { params: { consignment: id }, body: { reason } }));
  }

  /** All shipments of the consignment go back to their bins. */
  protected putBack(): void {
    const [first] = this.view()?.shipments.filter((row) => row.state === 'picking') ?? [];
    if (!first) return;
    this.store.run(
      () => this.api.call(shippingRoutes.cancelPick, { params: { shipment: first.id }, body: { reason: 'returned to stock' } }),
      () => this.leave(),
    );
  }

  /** What should happen next. */
  protected readonly next = computed((): 'pack' | 'label' | 'ship' | null => {
    const view = this.view();
    if (!view || !this.inHouse() || !this.mayMove()) return null;
    if (this.left().length > 0) return 'pack';
    if (view.labelled && view.label?.state !== 'made' && this.tracking() === '' && view.cartons.length > 0)
      return view.label?.state === 'waiting' ? null : 'label';
    return view.missing.length === 0 || this.tracking() !== '' ? 'ship' : null;
  });

  private mainAct(): boolean {
    const next = this.next();
    if (next === 'pack') this.packProposed();
    else if (next === 'label') this.requestLabel();
    else if (next === 'ship') this.ship();
    return next !== null;
  }

  protected leave(): void {
    void this.router.navigate(['/shipping'], { queryParams: { warehouse: this.view()?.warehouse ?? null } });
  }
}
