import type { RouteChoice } from '@nockwright/contract/shortages';
import type { Route } from '@nockwright/core/shortages';

/** A route as it crosses the wire. */
export function routeView({ score: _, parts, ...route }: Route): RouteChoice {
  return { ...route, parts: parts.map(({ obliges: _obliges, remarks: _remarks, unbought: _unbought, ...part }) => part) };
}
