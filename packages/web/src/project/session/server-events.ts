import type { ProjectEvent } from '../../api/types';
import { pauseAfter } from './pause-after';
import type { FromSharedEvents, ToSharedEvents } from './shared-events.worker';

/** What a project's server tells as it happens, listened to again after every silence. */
export class ServerEvents {
  private events: EventSource | undefined;
  private again: ReturnType<typeof setTimeout> | undefined;
  /** Times in a row that the stream was refused. */
  private lost = 0;
  private closed = false;
  /** Says that this window listens no more. */
  private leave: () => void = () => {};

  constructor(
    private readonly projectId: string,
    private readonly onEvent: (event: ProjectEvent) => void,
    /** After events may have been missed: edits are fetched by their version, an export by its state. */
    private readonly onMissed: () => void,
  ) {}

  open(): void {
    if (typeof SharedWorker === 'undefined' || !navigator.locks) this.openAlone();
    else this.openShared();
  }

  /** By the one stream that all windows of this browser share. */
  private openShared(): void {
    const worker = new SharedWorker(new URL('./shared-events.worker.ts', import.meta.url), {
      type: 'module',
      name: 'tolvik events',
    });
    // Without its code there is no worker: this window then has a stream of its own.
    worker.onerror = () => !this.closed && !this.events && this.openAlone();
    const lock = `events ${crypto.randomUUID()}`;
    const say = (message: ToSharedEvents) => worker.port.postMessage(message);
    worker.port.onmessage = ({ data }: MessageEvent<FromSharedEvents>) => {
      if (data === 'missed') this.onMissed();
      else this.onEvent(data.event as ProjectEvent);
    };
    void navigator.locks.request(lock, () => {
      say({ listen: this.projectId, lock });
      return new Promise<void>((resolve) => {
        this.leave = () => {
          say('leave');
          worker.port.close();
          resolve();
        };
        if (this.closed) this.leave();
      });
    });
  }

  private openAlone(): void {
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
      this.again = setTimeout(() => this.openAlone(), pauseAfter(this.lost));
    };
    events.onmessage = ({ data }) => this.onEvent(JSON.parse(data) as ProjectEvent);
  }

  close(): void {
    this.closed = true;
    this.leave();
    clearTimeout(this.again);
    this.events?.close();
    this.events = undefined;
  }
}
