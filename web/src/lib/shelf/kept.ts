/** The task a driver has taken, kept on the device: in a dead spot its goods and bin can still be scanned. */
import { newActId, type Schemas } from '$lib/api/client';
import { database } from '$lib/device';
import { readScan } from '$lib/door/codes';
import { waiting } from '$lib/door/waiting.svelte';
import type { Said } from '$lib/scan.svelte';
import { scanner } from '$lib/scanner.svelte';

export type KeptTask = {
  site: string;
  card: Schemas['TaskCard'];
  bin: string;
  codes: string[];
  goodsScanned: boolean;
};

export const keepTask = async (task: KeptTask) => {
  await (await database()).put('tasks', JSON.parse(JSON.stringify(task)));
};
export const keptTask = async (site: string): Promise<KeptTask | undefined> => (await database()).get('tasks', site);
export const forgetTask = async (site: string) => (await database()).delete('tasks', site);

/** True when a label says one of the codes of the goods: the whole of it, or the unit, item or batch that it names. */
export function fits(codes: readonly string[], text: string): boolean {
  const read = readScan(text, scanner.settings);
  const said = [read.text, read.key].map((name) => name.toUpperCase());
  return codes.some((code) => said.includes(code.toUpperCase()));
}

/** A scan of the driver without a network: the goods first, then the bin; both are kept, and the server judges them when they are sent. */
export async function scanInDeadSpot(site: string, text: string): Promise<Said> {
  waiting.reachable = false;
  const kept = await keptTask(site);
  if (!kept?.card.task)
    return {
      words: 'No network, and no task was taken on this device.',
      next: 'take a task where the network reaches',
      tone: 'refused',
    };
  const { card } = kept;
  const task = card.task!;
  if (fits(kept.codes, text)) {
    const words = `Goods of ${card.item}`;
    await waiting.keep({
      id: newActId(),
      arrival: '',
      words,
      step: { path: '/api/{site}/shelf/scan-goods', body: { task, scan: text } },
    });
    await keepTask({ ...kept, goodsScanned: true });
    return { words: `The right goods, as far as this device knows. Kept.`, next: `scan ${kept.bin}`, tone: 'taken' };
  }
  if (!kept.goodsScanned)
    return { words: 'That is not a label of these goods.', next: `scan the label of ${card.item}`, tone: 'refused' };
  const bin = readScan(text, scanner.settings).text.toUpperCase();
  await waiting.keep({
    id: newActId(),
    arrival: '',
    words: `${card.item} into ${bin}`,
    step: { path: '/api/{site}/shelf/put-down', body: { task, bin, quantity: null, reason: null } },
  });
  await forgetTask(site);
  return {
    words:
      bin === kept.bin
        ? `${card.item} in ${bin}. Kept.`
        : `${card.item} in ${bin}, not ${kept.bin}. Kept; it is judged when the network is back.`,
    next: 'the next task, where the network reaches',
    tone: bin === kept.bin ? 'taken' : 'look',
  };
}
