/**
 * What a clause does that is no line of an order: it takes something back, changes what was ordered before, puts it off, or
 * hangs on something else. Whoever reads the text has to deal with it.
 */
export type TaskKind = 'negates' | 'cancels' | 'replaces' | 'defers' | 'depends' | 'refers';

const VERB = '(?:need|want|require|order|send|ship|deliver|include|bother|forget)';
const PATTERNS: readonly (readonly [TaskKind, RegExp])[] = [
  [
    'cancels',
    /\b(?:cancel(?:s|led|ling|lation)?|scrap|remove|delete|drop|skip|leave (?:out|off)|take (?:\S+ ){0,4}?(?:off|out)|return(?:s|ed|ing)?|send(?:ing)? back)\b/i,
  ],
  [
    'replaces',
    /\b(?:instead|replac(?:e|es|ed|ing)|swap|exchange|rather than|in place of|substitute (?:for|the|with)|(?:change|amend|correct|increase|reduce|raise|lower|cut|up|make)\b.{0,40}?\b(?:to|from|by|into|it|that|this)\b)/i,
  ],
  [
    'negates',
    new RegExp(
      `\\b(?:not(?! later than)|(?:do|does|did|can|could|would|should|wo|is|are)n['’]?t|never|without|except|no (?:more|longer|need|further)|neither|nor|stop)\\b|\\bno\\b(?= ${VERB}\\b)`,
      'i',
    ),
  ],
  [
    'defers',
    /\b(?:postpone|defer|delay|hold (?:off|back|on|the)|put (?:\S+ ){0,3}?(?:off|back|on hold)|push(?: it| them)? back|wait(?: with| until| for| till)?|later on|on hold|park)\b/i,
  ],
  [
    'depends',
    /\b(?:if (?!possible|you can\b|you could\b)|unless|provided|providing|in case|depend(?:s|ing)|otherwise|or else|assuming|subject to|once (?:you|they|we|it|the)|when(?:ever)? (?:you|they|it|we|the|these|those|back)|as long as|whichever|either)/i,
  ],
  [
    'refers',
    /\b(?:half of|(?:same|as) (?:as )?(?:last|before|previous)|last (?:time|order|delivery|month|week)(?:['’]s)?|previous order|twice (?:the|as|what)|double (?:the|our|what)|the rest of|(?:from|on|of|in|to) (?:my |our |the |your )?order (?:no\.? |number )?[a-z]*-?\d{3,}|repeat (?:the |our |my )?order|order \S*\d\S* again|what we (?:had|got|ordered))/i,
  ],
];

/** What a clause does beside ordering; null where it only orders, asks or greets. */
export function taskOf(clause: string): TaskKind | null {
  return PATTERNS.find(([, pattern]) => pattern.test(clause))?.[0] ?? null;
}

/** A new thing is said from here: `but …`, `and please send …`, `then cancel …`. */
const TURN =
  /(?:\s*[,;–—-]\s+|\s+)(?=(?:but|however)\b)|(?:\s*,\s*|\s+)(?=(?:and |also |then |please |and also |and please |and then |but )*(?:cancel|scrap|remove|delete|skip|replace|swap|postpone|defer|hold off|return|do not|don['’]?t|we do not|we don['’]?t|instead of|if (?!possible|you can|you could)|unless|otherwise)\b)|(?:\s*,\s*|\s+)(?=(?:and |but |also |then )+(?:please |also )*(?:send|ship|add|order|deliver|we need|we want|i need|can we have)\b)/i;

/**
 * A sentence parted where it turns to something else. What follows a clause that takes back, changes or hangs on something
 * belongs to it, unless it says anew that something is to be sent: of `cancel the suits and 5 lids` nothing is ordered.
 */
export function clausesOf(sentence: string): readonly string[] {
  const clauses: string[] = [];
  let joint = '';
  for (const piece of sentence.split(new RegExp(TURN, 'gi'))) {
    const clause = `${joint} ${piece}`.trim();
    joint = JOINTS.test(clause) ? clause : '';
    if (joint === '' && clause !== '') clauses.push(clause);
  }
  return joint === '' ? clauses : [...clauses, joint];
}

/** Words that belong to what follows. */
const JOINTS = /^(?:and|also|then|please|but|so|we|i|you|can|could|would)(?:\s+(?:and|also|then|please|but|so|we|i|you|can|could|would))*$/i;
