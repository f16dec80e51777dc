/**
 * What weighs how much when ways are ranked, all in money so that they can be added: a way is worth its margin less
 * these. Shares are percent of the selling value, or of the cost for what is left on the shelf.
 */
export interface RoutePolicy {
  /** Of the value of what is late, for each calendar day. */
  readonly latePercent: number;
  /** For each consignment beyond the first, in the order's currency. */
  readonly shipmentCost: number;
  /** Of the cost of what must be bought and is not needed. */
  readonly surplusPercent: number;
  /** Of the value of what is cut. */
  readonly cutPercent: number;
}

export const POLICY_NAMES = ['on_time', 'cheapest', 'fewest_shipments'] as const;
export type PolicyName = (typeof POLICY_NAMES)[number];

/** Starting weights of each policy; a desk sets its own. Chosen by trying, no source. */
export const POLICIES: Readonly<Record<PolicyName, RoutePolicy>> = {
  on_time: { latePercent: 5, shipmentCost: 4, surplusPercent: 10, cutPercent: 60 },
  cheapest: { latePercent: 0.2, shipmentCost: 6, surplusPercent: 25, cutPercent: 50 },
  fewest_shipments: { latePercent: 0.5, shipmentCost: 60, surplusPercent: 10, cutPercent: 55 },
};

/** What is weighed of a way. Money in the order's currency. */
export interface Weighed {
  readonly margin: number;
  /** Selling value × calendar days late, summed over what leaves late. */
  readonly lateValueDays: number;
  readonly shipments: number;
  readonly surplusCost: number;
  readonly cutValue: number;
}

/** What a way is worth by a policy; more is better. */
export function scoreOf({ margin, lateValueDays, shipments, surplusCost, cutValue }: Weighed, policy: RoutePolicy): number {
  return (
    margin -
    (policy.latePercent / 100) * lateValueDays -
    policy.shipmentCost * Math.max(0, shipments - 1) -
    (policy.surplusPercent / 100) * surplusCost -
    (policy.cutPercent / 100) * cutValue
  );
}
