/**
 * A file that is taken in for a while: how far it is, asked for while it goes on. Pressed once more after an answer was
 * lost, it is the same act.
 */
import { newActId, Problem, type Schemas } from '$lib/api/client';

export class Importing {
  progress = $state<Schemas['ImportProgressAnswer']>();
  busy = $state('');
  private id = newActId();

  /** Forgets what was begun: another file is another act. */
  begin(busy: string) {
    this.id = newActId();
    this.progress = undefined;
    this.busy = busy;
  }

  async run<T>(take: (act: string) => Promise<T>, look: (act: string) => Promise<Schemas['ImportProgressAnswer']>) {
    this.busy = 'Importing.';
    this.progress = undefined;
    const asking = setInterval(
      () =>
        void look(this.id).then(
          (progress) => (this.progress = progress),
          () => undefined,
        ),
      400,
    );
    try {
      const answer = await take(this.id);
      this.id = newActId();
      return answer;
    } catch (problem) {
      if (!(problem instanceof Problem) || !problem.isOpen) this.id = newActId();
      throw problem;
    } finally {
      clearInterval(asking);
      this.busy = '';
    }
  }
}
