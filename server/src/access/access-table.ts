import { API } from '@nockwright/contract/api';
import { ROLES, SEES, type AnyRoute } from '@nockwright/contract/shape';

/** What each role may ask, and what it does not see of the answers, as the tables of docs/access.md: made of the contract. */
export function accessTable(): string {
  const head = (...cells: string[]) => [row(cells), row(cells.map(() => '---'))];
  const lines = [...head('Asks', 'Route', ...ROLES)];
  const sealed = new Map<string, Set<string>>();
  for (const [area, all] of Object.entries(API))
    for (const route of Object.values(all as unknown as Record<string, AnyRoute>)) {
      lines.push(
        row([
          `${area}: ${route.summary}`,
          `\`${route.method} ${route.path}\``,
          ...ROLES.map((role) => (route.roles === 'public' || route.roles.includes(role) ? 'yes' : '')),
        ]),
      );
      for (const { path, secret } of route.reply?.seals ?? []) {
        const field = path
          .filter((step) => step !== '*')
          .slice(-2)
          .join('.');
        sealed.set(secret, (sealed.get(secret) ?? new Set()).add(field));
      }
    }
  lines.push('', ...head('Not seen by everybody', 'Fields', ...ROLES));
  for (const [secret, fields] of [...sealed].sort())
    lines.push(
      row([
        secret,
        [...fields]
          .sort()
          .map((field) => `\`${field}\``)
          .join(', '),
        ...ROLES.map((role) => (SEES[role].includes(secret as 'cost') ? 'yes' : '')),
      ]),
    );
  return `${lines.join('\n')}\n`;
}

function row(cells: readonly string[]): string {
  return `| ${cells.map((cell) => cell.replaceAll('|', '/')).join(' | ')} |`;
}
