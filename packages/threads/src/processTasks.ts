/** What a process can be asked to do: functions of a value that can be sent, which may say things while they work. */
export type SpeakingTasks = Readonly<
  Record<string, (input: never, say: (message: unknown) => void) => unknown>
>;

/** One thing that a process is asked to do. */
export interface ProcessCall {
  readonly task: string;
  readonly input: unknown;
}

/** What comes back: things that are said on the way, and how it ended. */
export type Answer = { readonly said: unknown } | { readonly done: unknown } | { readonly failed: string };

/** Carries out, in a process of its own, what the process that started it asks for. */
export function serveProcess(tasks: SpeakingTasks): void {
  // Whoever asked may be gone meanwhile, and is told nothing then.
  const send = (answer: Answer): void => void process.send?.(answer, undefined, undefined, () => undefined);
  process.on('message', ({ task, input }: ProcessCall) => {
    Promise.resolve()
      // What was sent was typed by `run`, which is made from the same tasks.
      .then(() => tasks[task](input as never, (message: unknown) => send({ said: message })))
      .then(
        (done) => send({ done }),
        (error: unknown) =>
          send({ failed: error instanceof Error ? (error.stack ?? error.message) : String(error) }),
      );
  });
  // Without whoever asked there is nothing to do.
  process.on('disconnect', () => process.exit());
}
