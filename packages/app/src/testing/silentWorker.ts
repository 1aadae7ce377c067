/** Takes the messages of a worker, and never answers: nothing is painted where it stands in for one. */
export class SilentWorker extends EventTarget {
  postMessage(): void {
    /* nothing is painted */
  }
}
