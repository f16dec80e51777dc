import { amount, flag, get, integer, nullable, object, post, put, text, type Of } from '../shape';

const MANAGER = ['manager'] as const;
const SEEN_BY = ['coordinator', 'warehouse', 'manager'] as const;

/** Which orders are released to pick by themselves: those that no rule stops. */
const rules = {
  on: flag(),
  /** Local times of day, `08:00, 11:00`. */
  times: text(100),
  mostValue: nullable(amount()),
  firstOrder: flag(),
  instructions: flag(),
  belowFloor: flag(),
  newAddress: flag(),
  mostShipments: nullable(integer(1, 99)),
};

const kept = object({ version: integer(), ...rules });
export type PickRulesView = Of<typeof kept>;

const trial = object({
  orders: integer(),
  stopped: integer(),
  by: object({ value: integer(), first_order: integer(), instructions: integer(), below_floor: integer(), new_address: integer(), shipments: integer() }),
});
export type PickTrial = Of<typeof trial>;

export const pickRuleRoutes = {
  readPickRules: get('/pick-rules', { summary: 'Which orders are released to pick by themselves', roles: SEEN_BY, reply: kept }),
  tryPickRules: post('/pick-rules/try', {
    summary: 'How many orders of the last 90 days rules would have stopped; nothing is set',
    roles: MANAGER,
    body: object(rules),
    reply: trial,
  }),
  setPickRules: put('/pick-rules', {
    summary: 'Set which orders are released to pick by themselves',
    roles: MANAGER,
    body: object({ version: integer(), ...rules }),
    reply: kept,
  }),
};
