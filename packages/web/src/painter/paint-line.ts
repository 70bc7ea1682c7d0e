import type { ToPainter } from './messages';

export type Paint = Extract<ToPainter, { kind: 'paint' }>;

/** What is to be painted: the newest first, since that is what is in view now, and what is urgent before all else. */
export class PaintLine {
  private readonly bySlot = new Map<string, Paint>();
  /** Newest last. What was replaced or taken meanwhile is passed over. */
  private urgent: Paint[] = [];
  private others: Paint[] = [];

  /** Adds a request; answers the one of the same slot that it replaces. */
  add(request: Paint): Paint | undefined {
    const before = this.bySlot.get(request.slot);
    this.bySlot.set(request.slot, request);
    (request.urgent ? this.urgent : this.others).push(request);
    return before;
  }

  /** Takes the next request off the line; what is not urgent only when it is asked for. */
  take(onlyUrgent: boolean): Paint | undefined {
    const next = this.last(this.urgent) ?? (onlyUrgent ? undefined : this.last(this.others));
    if (next) this.bySlot.delete(next.slot);
    return next;
  }

  clear(): void {
    this.bySlot.clear();
    this.urgent = [];
    this.others = [];
  }

  private last(stack: Paint[]): Paint | undefined {
    for (let next = stack.pop(); next; next = stack.pop()) if (this.bySlot.get(next.slot) === next) return next;
    return undefined;
  }
}
