import { proxy, wrap, type Remote } from 'comlink';
import type { PictureHead, Result, TraceChoices, Traced } from '@bistre/core';
import type { Took, TraceService } from './trace.worker';

/**
 * A picture in a worker of its own. Ending it ends whatever it is at; what it kept is gone then.
 * Calls that were under way answer null.
 */
export class Tracer {
  private readonly worker = new Worker(new URL('./trace.worker.ts', import.meta.url), { type: 'module' });
  private readonly remote: Remote<TraceService> = wrap<TraceService>(this.worker);
  private stop: () => void = () => undefined;
  private readonly stopped = new Promise<null>((resolve) => {
    this.stop = () => resolve(null);
  });

  open(file: File, progress: (share: number) => void): Promise<(Result<PictureHead> & Took) | null> {
    return this.told(progress, async (tell) => await this.remote.open(file, file.name.slice(0, 120), tell));
  }

  trace(
    dot: number,
    choices: TraceChoices,
    progress: (share: number) => void,
  ): Promise<(Result<Traced> & Took) | null> {
    return this.told(progress, async (tell) => await this.remote.trace(dot, choices, tell));
  }

  /** What is told after the answer may still be on its way: it is not passed on. */
  private async told<T>(
    progress: (share: number) => void,
    call: (tell: typeof progress) => Promise<T>,
  ): Promise<T | null> {
    let done = false;
    const tell = proxy((share: number) => {
      if (!done) progress(share);
    });
    try {
      return await Promise.race([call(tell), this.stopped]);
    } finally {
      done = true;
    }
  }

  end(): void {
    this.worker.terminate();
    this.stop();
  }
}
