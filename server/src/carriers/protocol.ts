import Joi from 'joi';
import { content } from '@nockwright/contract/shape';

/** A parcel, as carriers are told of it. Weights in kilograms, sizes in centimetres. */
export interface Parcel {
  readonly sscc: string;
  readonly weight: number;
  readonly length: number;
  readonly width: number;
  readonly height: number;
}

export interface Destination {
  readonly name: string;
  readonly address: string;
  readonly postcode: string;
  readonly country: string;
}

export interface RateRequest {
  readonly services: readonly string[];
  readonly day: string;
  readonly to: Destination;
  readonly parcels: readonly Parcel[];
}

export interface Rate {
  readonly service: string;
  readonly cost: string;
  readonly arrives: string;
}

export interface LabelRequest {
  /** The same request sent again has the same key, and the same answer. */
  readonly key: string;
  readonly service: string;
  readonly day: string;
  readonly reference: string;
  /** Of the customer, where the carrier bills them; empty: us. */
  readonly account: string;
  readonly to: Destination;
  readonly parcels: readonly Parcel[];
}

export interface MadeLabel {
  readonly id: string;
  readonly tracking: string;
  readonly cost: string;
  /** Of the label, one page a parcel, as base64. */
  readonly pdf: string;
}

export interface TrackingNews {
  readonly id: string;
  readonly label: string;
  readonly at: string;
  readonly kind: 'picked_up' | 'in_transit' | 'out_for_delivery' | 'delivered' | 'exception';
  readonly place: string;
  readonly words: string;
}

const words = (most: number) => Joi.string().max(most);
const money = Joi.string().pattern(/^\d{1,9}(\.\d{1,2})?$/);
const day = Joi.string().pattern(/^\d{4}-\d{2}-\d{2}$/);

/** How a stand-in behaves; real carriers have no such thing. */
export interface StandInBehaviour {
  readonly slowMs: number;
  readonly failures: number;
  readonly refuses: string;
}

/** What carriers may answer: anything else is no answer. */
export const ANSWERS = {
  rates: Joi.object<{ rates: readonly Rate[] }>({
    rates: Joi.array()
      .max(100)
      .items(Joi.object({ service: words(40).required(), cost: money.required(), arrives: day.required() }))
      .required(),
  }),
  label: Joi.object<MadeLabel>({
    id: words(60).required(),
    tracking: words(60).required(),
    cost: money.required(),
    pdf: content(6_000_000).schema.required(),
  }),
  voided: Joi.object<{ voided: true }>({ voided: Joi.boolean().valid(true).required() }),
  behaviour: Joi.object<StandInBehaviour>({
    slowMs: Joi.number().min(0).required(),
    failures: Joi.number().min(0).required(),
    refuses: words(300).allow('').required(),
  }),
  moved: Joi.object<{ moved: number }>({ moved: Joi.number().min(0).required() }),
  news: Joi.object<{ news: readonly TrackingNews[]; last: string }>({
    news: Joi.array()
      .max(500)
      .items(
        Joi.object({
          id: words(60).required(),
          label: words(60).required(),
          at: Joi.string().isoDate().required(),
          kind: Joi.string().valid('picked_up', 'in_transit', 'out_for_delivery', 'delivered', 'exception').required(),
          place: words(100).allow('').required(),
          words: words(300).allow('').required(),
        }),
      )
      .required(),
    last: words(60).allow('').required(),
  }),
} as const;
