import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import type { Schemas } from './api/client';
import { knownToday, remember } from './shift';

const maren = { signedIn: true, personId: 4, name: 'Maren' } as Schemas['SessionAnswer'];

describe('changing the person in a dead spot', () => {
  it('works for who signed in here today, with the right PIN', async () => {
    await remember('BADGE-004', '1004', maren, '2026-03-10');
    expect((await knownToday('BADGE-004', '1004', '2026-03-10')).name).toBe('Maren');
    await expect(knownToday('BADGE-004', '1004', '2026-03-11')).rejects.toMatchObject({ code: 'not-today' });
    await expect(knownToday('BADGE-003', '1003', '2026-03-10')).rejects.toMatchObject({ code: 'not-today' });
  });
  it('keeps no PIN, and locks after five wrong tries', async () => {
    await remember('BADGE-005', '1005', maren, '2026-03-10');
    for (let i = 0; i < 5; i++)
      await expect(knownToday('BADGE-005', '9999', '2026-03-10')).rejects.toMatchObject({ code: 'sign-in-failed' });
    await expect(knownToday('BADGE-005', '1005', '2026-03-10')).rejects.toMatchObject({ code: 'locked-out' });
    const { database } = await import('./device');
    expect(JSON.stringify(await (await database()).get('people', 'BADGE-005'))).not.toContain('1005"');
  });
});
