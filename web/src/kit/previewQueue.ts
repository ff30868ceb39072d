/** What becomes of previews as they are answered. */
export interface Answers<T> {
  /** The newest answer that is still wanted, or nothing where previews were dropped. */
  show: (answer: T | undefined) => void;
  /** Why the newest was refused; nothing once one is answered. */
  refuse: (error: unknown) => void;
}

/**
 * Previews of one thing. At most one is under way; while it is, only the newest change waits, so a fast pointer never
 * queues up. What was asked before `drop` is never shown, however late it is answered.
 */
export class PreviewQueue<A, T> {
  private waiting: { change: A } | undefined;
  private busy = false;
  private era = 0;

  constructor(
    private readonly ask: (change: A) => Promise<T>,
    private readonly answers: Answers<T>,
  ) {}

  propose(change: A): void {
    this.waiting = { change };
    if (!this.busy) void this.work();
  }

  /** Forgets what is shown, what waits, and what is under way. */
  drop(): void {
    this.era += 1;
    this.waiting = undefined;
    this.answers.show(undefined);
  }

  private async work(): Promise<void> {
    this.busy = true;
    while (this.waiting) {
      const { change } = this.waiting;
      this.waiting = undefined;
      const era = this.era;
      try {
        const answer = await this.ask(change);
        if (era === this.era) this.answers.show(answer);
      } catch (error) {
        if (era === this.era) this.answers.refuse(error);
      }
    }
    this.busy = false;
  }
}
