/** Scales: what was put on one last. */
import { ask, Problem } from '$lib/api/client';

/** The steady weight that came last, within a minute; else a sentence why there is none. */
export async function onScale(
  path: '/api/{site}/door/scales' | '/api/{site}/bench/scales',
): Promise<{ scale: string; kilograms: number } | string> {
  try {
    const scales = await ask(path);
    const last = scales.find((s) => !s.old);
    if (!last)
      return scales.length ? 'No scale has sent a weight in the last minute.' : 'No scale has sent a weight yet.';
    return last.steady ? last : `${last.scale} is not steady yet.`;
  } catch (problem) {
    return problem instanceof Problem ? problem.sentence : 'The scale could not be read.';
  }
}
