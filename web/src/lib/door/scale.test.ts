import { beforeEach, describe, expect, it } from 'vitest';
import { FakeServer, signIn } from '$lib/testing/server';
import { heardScales } from './scale';

const scale = (name: string, kilograms: number, old = false) => ({
  scale: name,
  kilograms,
  steady: true,
  at: '2026-03-10T11:20:00',
  old,
});
const path = '/api/LM/bench/scales';
let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  signIn();
});

describe('what lies on the scales', () => {
  it('is what was sent within a minute, of every scale that sent', async () => {
    server.on(path, () => [scale('Bench', 0.0248), scale('By door 3', 612), scale('Cold store', 3, true)]);
    const heard = await heardScales('/api/{site}/bench/scales');
    expect(typeof heard === 'string' ? heard : heard.map((s) => s.scale)).toEqual(['Bench', 'By door 3']);
  });

  it('is said in a sentence where there is nothing, nothing new, or no network', async () => {
    server.on(path, () => []);
    expect(await heardScales('/api/{site}/bench/scales')).toBe('No scale has sent a weight yet.');
    server.on(path, () => [scale('Bench', 1, true)]);
    expect(await heardScales('/api/{site}/bench/scales')).toBe('No scale has sent a weight in the last minute.');
    server.cut = true;
    expect(await heardScales('/api/{site}/bench/scales')).toMatch(/\.$/);
  });
});
