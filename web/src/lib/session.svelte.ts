/** Who is signed in, and at which site. */
import { act, ask, limits, Problem, setSite, setToken, signOut, type Schemas } from './api/client';
import { scanner } from './scanner.svelte';
import { knownToday, remember } from './shift';

const nobody: Schemas['SessionAnswer'] = {
  signedIn: false,
  personId: null,
  name: null,
  roles: [],
  rights: [],
  sites: [],
  token: null,
  isDemo: false,
};

const date = () => new Date().toISOString().slice(0, 10);

/** Who was signed in on this device today, for dead spots. */
function today(): Schemas['SessionAnswer'] {
  const kept = JSON.parse(localStorage.getItem('last session') ?? 'null');
  return kept?.day === date() ? kept.state : nobody;
}

class Session {
  state = $state<Schemas['SessionAnswer'] | null>(null);
  site = $state('');
  /** True while somebody works on who changed in a dead spot: the server still knows the one before. */
  away = $state(false);

  get rights(): string[] {
    return this.state?.rights ?? [];
  }

  may(right: Schemas['Right']): boolean {
    return this.rights.includes(right);
  }

  /** Asks who is here. False when the server does not answer and the device goes by what it knew today. */
  async load(): Promise<boolean> {
    let state: Schemas['SessionAnswer'];
    try {
      // Whoever signed in here today need not wait long for an answer that may not come.
      state = await ask('/api/session', {}, today().signedIn ? limits.scan : limits.usual);
    } catch (problem) {
      // In a dead spot whoever signed in here today works on; nothing reaches the server without their cookie and a fresh token.
      state = this.state ?? today();
      if (!(problem instanceof Problem && problem.status === 0) || !state.signedIn) throw problem;
      if (!this.state) this.enter(state);
      return false;
    }
    setToken(state.token);
    if (this.away && state.personId !== this.state?.personId) {
      // The network is back, and the server knows somebody else: who is here now signs in once more.
      throw new Problem('badge-again', `${this.state?.name} changed in a dead spot.`, 'Scan the badge again.', 401);
    }
    this.away = false;
    this.enter(state);
    localStorage.setItem('last session', JSON.stringify({ day: date(), state: { ...state, token: null } }));
    return true;
  }

  private enter(state: Schemas['SessionAnswer']) {
    this.state = state;
    const kept = localStorage.getItem('site');
    this.choose(state.sites.find((s) => s.code === kept)?.code ?? state.sites[0]?.code ?? '');
  }

  choose(code: string) {
    this.site = code;
    setSite(code);
    if (code) localStorage.setItem('site', code);
    // What a device kept of its last session before an upgrade does not say how the scanners type.
    const scanners = this.state?.sites.find((s) => s.code === code)?.scanner;
    if (scanners) scanner.learn(scanners);
  }

  /**
   * Somebody else works on. In a dead spot only who signed in here by badge today; what they count is sent when they
   * are signed in again.
   */
  async byBadge(badge: string, pin: string) {
    try {
      await act('/api/session/badge', { badge, pin }, undefined, 2 * limits.scan);
    } catch (problem) {
      if (!(problem instanceof Problem && problem.status === 0)) throw problem;
      const known = await knownToday(badge, pin, date());
      this.enter(known);
      this.away = true;
      return;
    }
    this.away = false;
    await this.load();
    // Not waited for: hashing the PIN is slow on purpose, and the next scan comes at once.
    if (this.state?.signedIn) void remember(badge, pin, { ...$state.snapshot(this.state), token: null }, date());
  }

  async signIn(name: string, password: string) {
    await act('/api/session', { name, password });
    this.away = false;
    await this.load();
  }

  /** One's own password anew; all other sessions of this person end. */
  async choosePassword(name: string, password: string, newPassword: string) {
    await act('/api/session/password', { name, password, newPassword });
    this.away = false;
    await this.load();
  }

  async signOut() {
    await signOut();
    this.away = false;
    await this.load();
  }
}

export const session = new Session();
