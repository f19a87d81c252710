/** How the scanners of this site type, as it was learned; kept on the device for dead spots. */
import type { Schemas } from './api/client';

class Scanner {
  /** Most milliseconds between two characters; 0 for a scanner as fast as usual. */
  pace = $state(Number(localStorage.getItem('scanner pace') ?? 0));

  learn(settings: Schemas['ScannerSettings']) {
    this.pace = settings.pace;
    localStorage.setItem('scanner pace', String(settings.pace));
  }
}

export const scanner = new Scanner();
