/** Who is signed in, and at which site. */
import { act, ask, setSite, setToken, signOut, type Schemas } from './api/client';

class Session {
  state = $state<Schemas['SessionAnswer'] | null>(null);
  site = $state('');

  get rights(): string[] {
    return this.state?.rights ?? [];
  }

  may(right: Schemas['Right']): boolean {
    return this.rights.includes(right);
  }

  async load() {
    const state = await ask('/api/session');
    setToken(state.token);
    this.state = state;
    const kept = localStorage.getItem('site');
    this.choose(state.sites.find((s) => s.code === kept)?.code ?? state.sites[0]?.code ?? '');
  }

  choose(code: string) {
    this.site = code;
    setSite(code);
    if (code) localStorage.setItem('site', code);
  }

  async signIn(name: string, password: string) {
    await act('/api/session', { name, password });
    await this.load();
  }

  async signOut() {
    await signOut();
    await this.load();
  }
}

export const session = new Session();
