import type { RouteChoice } from '@nockwright/contract/shortages';
import type { IsoDay } from '@nockwright/core/calendar';
import { obligationWords, routeRemarks, type Route } from '@nockwright/core/shortages';

/** A route as it crosses the wire, its remarks in words. */
export function routeView({ score: _, parts, obliges, ...route }: Route, today: IsoDay): RouteChoice {
  return {
    ...route,
    obliges: obliges.map((row) => ({ kind: row.kind, words: obligationWords(row) })),
    remarks: routeRemarks(parts, today),
    parts: parts.map(({ obliges: _obliges, remarks: _remarks, ...part }) => part),
  };
}
