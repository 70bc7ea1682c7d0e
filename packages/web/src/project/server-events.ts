import type { ProjectEvent } from '../api/types';
import { pauseAfter } from './pause-after';

/** What a project's server tells as it happens, listened to again after every silence. */
export class ServerEvents {
  private events: EventSource | undefined;
  private again: ReturnType<typeof setTimeout> | undefined;
  /** Times in a row that the stream was refused. */
  private lost = 0;

  constructor(
    private readonly projectId: string,
    private readonly onEvent: (event: ProjectEvent) => void,
    /** After events may have been missed: edits are fetched by their version, an export by its state. */
    private readonly onMissed: () => void,
  ) {}

  open(): void {
    const events = new EventSource(`/api/projects/${this.projectId}/events`);
    this.events = events;
    let wasOpen = false;
    events.onopen = () => {
      if (wasOpen || this.lost > 0) this.onMissed();
      wasOpen = true;
      this.lost = 0;
    };
    events.onerror = () => {
      // A browser tries again by itself, except after an answer that is no stream.
      if (events.readyState !== EventSource.CLOSED || this.events !== events) return;
      this.lost++;
      this.again = setTimeout(() => this.open(), pauseAfter(this.lost));
    };
    events.onmessage = ({ data }) => this.onEvent(JSON.parse(data) as ProjectEvent);
  }

  close(): void {
    clearTimeout(this.again);
    this.events?.close();
    this.events = undefined;
  }
}
