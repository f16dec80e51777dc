/** What becomes of a mail, wherever one is shown. */
export const MAIL_STATES = { waiting: 'queued', sent: 'sent', failed: 'failed' } as const;
