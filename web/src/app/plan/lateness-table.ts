import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { LatenessView, ResequenceRun } from '@nockwright/contract/promise';
import { AmountPipe } from '../paper';

interface Row {
  readonly name: string;
  readonly before: LatenessView;
  readonly after: LatenessView;
}

/** How late the book is before and after a run, whole and by customer. */
@Component({
  selector: 'nock-lateness-table',
  imports: [AmountPipe],
  template: `
    <table class="ruled" aria-label="Lateness before and after">
      <thead>
        <tr>
          <th></th>
          <th class="figure">Late lines</th>
          <th class="figure">Late days</th>
          <th class="figure">Late value</th>
          <th class="figure">Without a day</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.name) {
          <tr>
            <td>{{ row.name }}</td>
            <td class="figure">
              {{ row.before.lateLines }} → <b>{{ row.after.lateLines }}</b>
            </td>
            <td class="figure" [class.good]="row.after.lateDays < row.before.lateDays" [class.late]="row.after.lateDays > row.before.lateDays">
              {{ row.before.lateDays }} → <b>{{ row.after.lateDays }}</b>
            </td>
            <td class="figure">
              {{ row.before.lateValue | amount }} → <b>{{ row.after.lateValue | amount }}</b>
            </td>
            <td class="figure">
              {{ row.before.withoutDay }} → <b>{{ row.after.withoutDay }}</b>
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    table {
      max-width: 760px;
      margin: 8px 0 18px;
    }
    tr:first-child td {
      font-weight: 700;
    }
    .good b {
      color: var(--covered);
    }
    .late b {
      color: var(--late);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LatenessTable {
  readonly run = input.required<ResequenceRun>();
  protected readonly rows = computed((): readonly Row[] => {
    const { before, after, customers } = this.run();
    if (!before || !after) return [];
    return [{ name: 'All orders', before, after }, ...customers.map(({ customer, ...row }) => ({ name: customer, ...row }))];
  });
}
