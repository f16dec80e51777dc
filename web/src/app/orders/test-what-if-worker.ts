import { WhatIf } from '@nockwright/core/orders';
import type { WhatIfAnswer, WhatIfQuestion } from './what-if-messages';

/** In the place of the worker in specs: the same answers, at once. */
export function startWhatIfWorker(): Worker {
  let whatIf: WhatIf | null = null;
  let answered: (event: { data: WhatIfAnswer }) => void = () => undefined;
  const worker = {
    addEventListener: (_: string, listener: typeof answered) => (answered = listener),
    postMessage(question: WhatIfQuestion) {
      if ('slice' in question) whatIf = new WhatIf(question.slice);
      else if (whatIf) answered({ data: { ask: question.ask, result: whatIf.try(question.wish) } });
    },
    terminate: () => undefined,
  };
  return worker as unknown as Worker;
}
