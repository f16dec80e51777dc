import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { OpenSession } from '@nockwright/contract/access';

/** What a browser says it is, in a word that a person knows. */
export function browserWords(agent: string): string {
  const browser = /Edg\//.test(agent)
    ? 'Edge'
    : /Firefox\//.test(agent)
      ? 'Firefox'
      : /Chrom(?:e|ium)\//.test(agent)
        ? 'Chrome'
        : /Safari\//.test(agent)
          ? 'Safari'
          : '';
  const system = /Android/.test(agent)
    ? 'Android'
    : /iPhone|iPad/.test(agent)
      ? 'iOS'
      : /Windows/.test(agent)
        ? 'Windows'
        : /Mac OS/.test(agent)
          ? 'macOS'
          : /Linux/.test(agent)
            ? 'Linux'
            : '';
  return [browser, system].filter(Boolean).join(' on ') || agent.slice(0, 40) || 'a program';
}

/** Where somebody is logged in; each can be ended. */
@Component({
  selector: 'nock-session-list',
  imports: [MatButton, DatePipe],
  template: `
    <ul aria-label="Sessions">
      @for (one of sessions(); track one.id) {
        <li>
          <span
            >{{ words(one.from) }}{{ one.here ? ' (this session)' : '' }}
            <span class="quiet small">since {{ one.openedAt | date: 'EEE d MMM HH:mm' }}, last used {{ one.seenAt | date: 'HH:mm' }}</span></span
          >
          @if (!one.here) {
            <button mat-button type="button" [attr.aria-label]="'End session with ' + words(one.from)" (click)="closing.emit(one.id)">End session</button>
          }
        </li>
      } @empty {
        <li class="quiet">No sessions.</li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 8px;
      padding: 4px 0;
      border-bottom: 1px solid var(--hairline);
    }
    .small {
      display: block;
    }
    button {
      flex: none;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SessionList {
  readonly sessions = input.required<readonly OpenSession[]>();
  readonly closing = output<number>();
  protected readonly words = browserWords;
}
