/** Scales: what lies on them. */
import { ask, Problem, type Schemas } from '$lib/api/client';

export type ScalePath = '/api/{site}/door/scales' | '/api/{site}/bench/scales';

/** The scales that have sent a weight within a minute, the last first; else a sentence why there is none. */
export async function heardScales(path: ScalePath): Promise<Schemas['ScaleView'][] | string> {
  try {
    const scales = await ask(path);
    const fresh = scales.filter((s) => !s.old);
    if (fresh.length > 0) return fresh;
    return scales.length ? 'No scale has sent a weight in the last minute.' : 'No scale has sent a weight yet.';
  } catch (problem) {
    return problem instanceof Problem ? problem.sentence : 'The scale could not be read.';
  }
}
