import { flag, get, integer, list, note, object, post, put, text, type Of } from '../shape';

const MANAGER = ['manager'] as const;

/** How the stand-in of a carrier behaves, so that whoever tries the desk out sees what becomes of it. */
const carrier = object({
  code: text(20),
  name: text(60),
  /** Whether it answers at all. */
  there: flag(),
  /** So many seconds until it answers. */
  slow: integer(0, 30),
  /** So many answers are failures before the next good one. */
  failures: integer(0, 20),
  /** Why it takes no parcel; empty: it takes them. */
  refuses: note(200),
});
export type CarrierView = Of<typeof carrier>;

export const carrierRoutes = {
  readCarriers: get('/carriers', { summary: 'Carriers, and how their stand-ins behave', roles: MANAGER, reply: list(carrier) }),
  setCarrier: put('/carriers/{carrier}', {
    summary: 'Make the stand-in of a carrier slow, fail or refuse',
    roles: MANAGER,
    params: object({ carrier: text(20) }),
    body: object({ slow: integer(0, 30), failures: integer(0, 20), refuses: note(200) }),
    reply: carrier,
  }),
  moveParcels: post('/carriers/{carrier}/move', {
    summary: 'Have the stand-in of a carrier take every parcel one stage on: picked up, in transit, out for delivery, delivered',
    roles: MANAGER,
    params: object({ carrier: text(20) }),
    body: object({}),
    reply: object({ moved: integer() }),
  }),
};
