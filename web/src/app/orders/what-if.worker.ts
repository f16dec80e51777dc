import { WhatIf } from '@nockwright/core/orders';
import type { WhatIfAnswer, WhatIfQuestion } from './what-if-messages';

let whatIf: WhatIf | null = null;

addEventListener('message', ({ data }: MessageEvent<WhatIfQuestion>) => {
  if ('slice' in data) whatIf = new WhatIf(data.slice);
  else if (whatIf) postMessage({ ask: data.ask, result: whatIf.try(data.wish) } satisfies WhatIfAnswer);
});
