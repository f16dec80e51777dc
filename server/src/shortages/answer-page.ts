import { dayByName } from '@nockwright/core/calendar';
import { unitName } from '@nockwright/core/units';
import type { Context, Hono } from 'hono';
import { html, raw } from 'hono/html';
import { loadFirm } from '../firm';
import type { CommandContext, Services } from '../http/context';
import { Refusal } from '../http/refusal';
import { sameOrigin } from '../http/security';
import { answerConsent } from './consent';
import { readToken } from '../links';

/** Who answers over a link: nobody who is known here. */
const CUSTOMER = { id: 0, login: '', name: 'The customer', role: 'coordinator' } as const;
const MOST_BYTES = 4_000;

type Answer = 'accept' | 'refuse' | 'part';
const ANSWERS: readonly string[] = ['accept', 'refuse', 'part'];

interface Question {
  readonly id: number;
  readonly question: string;
  readonly customer: string;
  readonly number: string;
  readonly quantity: string;
  readonly unit: string;
  readonly answerBy: string;
}

/**
 * The page behind the link of a question: what is asked, and yes, no, or a part. It knows nothing else of the house, needs
 * no log-in and no script, and answers a wrong, used or old link all in the same words.
 */
export function mountAnswerPage(app: Hono, services: Services): void {
  app.use('/answer/*', sameOrigin, async (c, next) => {
    c.set('house' as never, (await loadFirm(services.db)).name as never);
    await next();
    c.header('Cache-Control', 'no-store');
    c.header('X-Robots-Tag', 'noindex');
  });
  app.get('/answer/:token', async (c) => {
    const question = await openQuestion(services, c.req.param('token'));
    return question ? c.html(page(c, ask(question, c.req.path))) : gone(c);
  });
  app.post('/answer/:token', async (c) => {
    const question = await openQuestion(services, c.req.param('token'));
    if (!question) return gone(c);
    const form = await readForm(c);
    const answer = form.get('answer') ?? '';
    const taken = (form.get('taken') ?? '').trim();
    if (!ANSWERS.includes(answer)) return c.html(page(c, ask(question, c.req.path, 'Please choose one of the answers.')), 422);
    if (answer === 'part' && !isPart(taken, question.quantity))
      return c.html(page(c, ask(question, c.req.path, `How many will you take? Please give a number above 0 and below ${plain(question.quantity)}.`)), 422);
    try {
      await services.db.transaction().execute(async (trx) => {
        const context: CommandContext = {
          trx,
          user: CUSTOMER,
          now: services.clock(),
          jobs: services.jobs,
          publicUrl: services.publicUrl,
          afterCommit: () => undefined,
        };
        await answerConsent(
          context,
          question.id,
          {
            answer: answer as Answer,
            ...(answer === 'part' ? { taken } : {}),
            note: (form.get('note') ?? '')
              .replace(/\p{Cc}/gu, ' ')
              .trim()
              .slice(0, 500),
          },
          'link',
        );
      });
    } catch (error) {
      if (error instanceof Refusal && error.kind === 'conflict') return gone(c);
      throw error;
    }
    const said =
      answer === 'accept' ? 'You have said yes.' : answer === 'refuse' ? 'You have said no.' : `You take ${plain(taken)} of ${plain(question.quantity)}.`;
    return c.html(
      page(
        c,
        html`<h1>Thank you</h1>
          <p class="said">${said}</p>
          <p>We act on it now. If anything is left to settle, we ring you.</p>`,
      ),
    );
  });
}

/** The question of a link that still works; null otherwise, without saying why. */
async function openQuestion({ db, clock }: Services, token: string): Promise<Question | null> {
  const read = await readToken(db, token);
  if (!read || read.lastDay < clock().today) return null;
  const row = await db
    .selectFrom('consent_request')
    .innerJoin('sales_order', 'sales_order.id', 'consent_request.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('order_line', 'order_line.id', 'consent_request.line_id')
    .innerJoin('item', 'item.code', 'order_line.item')
    .select(['consent_request.id', 'question', 'customer.name', 'sales_order.number', 'consent_request.quantity', 'item.unit', 'answer_by'])
    .where('consent_request.id', '=', read.question)
    .where('consent_request.state', '=', 'open')
    .executeTakeFirst();
  if (!row) return null;
  return {
    id: row.id,
    question: row.question,
    customer: row.name,
    number: row.number ?? '',
    quantity: row.quantity,
    // Forty-seven of a thing, not “47 each”.
    unit: row.unit === 'EA' ? '' : unitName(row.unit, row.quantity),
    answerBy: dayByName(row.answer_by, clock().today),
  };
}

async function readForm(c: Context): Promise<URLSearchParams> {
  if (!/^application\/x-www-form-urlencoded\b/i.test(c.req.header('Content-Type') ?? '')) return new URLSearchParams();
  const text = await c.req.text();
  return new URLSearchParams(text.length > MOST_BYTES ? '' : text);
}

function isPart(taken: string, quantity: string): boolean {
  return /^\d{1,9}(\.\d{1,4})?$/.test(taken) && Number(taken) > 0 && Number(taken) < Number(quantity);
}

function plain(quantity: string): string {
  return quantity.includes('.') ? quantity.replace(/\.?0+$/, '') : quantity;
}

function gone(c: Context): Response | Promise<Response> {
  return c.html(
    page(
      c,
      html`<h1>This link does not work any more</h1>
        <p>It may have been used, or its day has passed. Please ring us: we settle it on the phone.</p>`,
    ),
    410,
  );
}

function ask(question: Question, path: string, fault = '') {
  return html`<p class="who">For ${question.customer}${question.number ? html`, order <b>${question.number}</b>` : ''}</p>
    <h1>${question.question}</h1>
    ${fault ? html`<p class="fault" role="alert">${fault}</p>` : ''}
    <form method="post" action="${path}">
      <button name="answer" value="accept" class="main">Yes, that is fine</button>
      <fieldset>
        <legend>Only a part of the ${plain(question.quantity)} ${question.unit}</legend>
        <label for="taken">I take</label>
        <input id="taken" name="taken" inputmode="decimal" autocomplete="off" maxlength="14" />
        <button name="answer" value="part">Take that part</button>
      </fieldset>
      <button name="answer" value="refuse">No</button>
      <label for="note" class="block">Anything to add?</label>
      <textarea id="note" name="note" rows="2" maxlength="500"></textarea>
    </form>
    <p class="until">This page can be answered once, until ${question.answerBy}.</p>`;
}

const STYLE = `
  :root { color-scheme: light dark; --paper: #f4f3ee; --ink: #1f2a2e; --quiet: #4d5a5e; --act: #12525e; --on-act: #fff; --line: #8b948f; --fault: #9c3a22; }
  @media (prefers-color-scheme: dark) { :root { --paper: #1b2224; --ink: #ecebe4; --quiet: #b3bcbb; --act: #86c9d4; --on-act: #10282d; --line: #7c8784; --fault: #f0a08a; } }
  body { margin: 0; background: var(--paper); color: var(--ink); font: 16px/1.5 sans-serif; }
  main { max-width: 34rem; margin: 0 auto; padding: 24px 20px 48px; }
  .house { margin: 0 0 28px; padding-bottom: 10px; border-bottom: 1px solid var(--line); font-weight: 600; }
  .who, .until { color: var(--quiet); }
  h1 { font-size: 1.35rem; line-height: 1.35; margin: 0.4em 0 1em; overflow-wrap: anywhere; }
  form { display: grid; gap: 14px; }
  button { min-height: 48px; padding: 8px 18px; font: inherit; font-weight: 600; color: var(--act); background: transparent; border: 2px solid var(--act); border-radius: 4px; cursor: pointer; }
  button.main { color: var(--on-act); background: var(--act); }
  fieldset { display: flex; flex-wrap: wrap; align-items: center; gap: 10px; margin: 0; padding: 10px 14px 14px; border: 1px solid var(--line); border-radius: 4px; }
  input, textarea { font: inherit; color: var(--ink); background: transparent; border: 1px solid var(--line); border-radius: 4px; padding: 8px; }
  input { width: 6rem; min-height: 30px; }
  textarea { width: 100%; box-sizing: border-box; }
  .fault { color: var(--fault); font-weight: 600; }
  .said { font-size: 1.15rem; }
  :focus-visible { outline: 3px solid var(--act); outline-offset: 2px; }
`;

function page(c: Context, content: ReturnType<typeof html>) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>A question about your order</title>
        <style nonce="${String(c.get('secureHeadersNonce'))}">
          ${raw(STYLE)}
        </style>
      </head>
      <body>
        <main>
          <p class="house">${String(c.get('house' as never))}</p>
          ${content}
        </main>
      </body>
    </html>`;
}
