/**
 * How the scanners of this site type, as it was learned; kept on the device for dead spots and for the badge before
 * anybody is signed in.
 */
import type { Schemas } from './api/client';

type Settings = Schemas['ScannerSettings'];

const usual: Settings = { prefix: '', suffix: '', separator: '', pace: 0, repeatWithin: 0 };

class Scanner {
  settings = $state<Settings>({ ...usual, ...JSON.parse(localStorage.getItem('scanner') ?? '{}') });

  learn(settings: Settings) {
    this.settings = settings;
    localStorage.setItem('scanner', JSON.stringify(settings));
  }
}

export const scanner = new Scanner();
