/**
 * Commands that were sent and not answered, by what they say. Said again they go out as they were, so nothing happens twice:
 * until a later one is accepted. Then the record shows what became of them, and the same words are a new act: who went home,
 * came back to close a breaker and goes home once more has to be heard twice.
 */
export class AwaitingOutcome<E extends { streamId: string }> {
  private readonly sent = new Map<string, { envelope: E; failed: boolean }>()
  /** What went out with these words and may have arrived. */
  find(says: string): E | undefined {
    return this.sent.get(says)?.envelope
  }
  goesOut(says: string, envelope: E): void {
    this.sent.set(says, { envelope, failed: false })
  }
  failed(says: string, envelope: E): void {
    this.sent.set(says, { envelope, failed: true })
  }
  forget(says: string): void {
    this.sent.delete(says)
  }
  /** A command for this record was accepted: what failed before is in it or is not. */
  accepted(streamId: string): void {
    for (const [says, { envelope, failed }] of this.sent) if (failed && envelope.streamId === streamId) this.sent.delete(says)
  }
}
