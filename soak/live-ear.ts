const PAUSE_MS = 300;

/** Hears live events as a page does: it comes back when it is cut off, and counts what it is told. */
export class LiveEar {
  private readonly heard = new Map<string, number>();
  private readonly end = new AbortController();

  constructor(
    private readonly url: string,
    private readonly cookie: () => Promise<string>,
  ) {
    void this.listen();
  }

  /** How often a topic has been told. */
  count(topic: string): number {
    return this.heard.get(topic) ?? 0;
  }

  close(): void {
    this.end.abort();
  }

  private async listen(): Promise<void> {
    while (!this.end.signal.aborted) {
      try {
        const response = await fetch(`${this.url}/api/live`, { headers: { Cookie: await this.cookie() }, signal: this.end.signal });
        const decoder = new TextDecoder();
        let text = '';
        for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
          text += decoder.decode(part, { stream: true });
          const events = text.split('\n\n');
          text = events.pop()!;
          for (const event of events) this.take(event);
        }
      } catch {
        // Cut off: it comes back as a browser does.
      }
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
  }

  private take(event: string): void {
    const data = /^data: ?(.*)$/m.exec(event)?.[1];
    if (!/^event: ?changed$/m.test(event) || !data) return;
    for (const topic of JSON.parse(data) as string[]) this.heard.set(topic, (this.heard.get(topic) ?? 0) + 1);
  }
}
