/** Light or dark: as the device has it, unless somebody chose on it. */
import { MediaQuery } from 'svelte/reactivity';

const device = new MediaQuery('prefers-color-scheme: dark');

class Scheme {
  private chosen = $state(localStorage.getItem('scheme'));

  get isDark() {
    return this.chosen === null ? device.current : this.chosen === 'dark';
  }

  turn() {
    this.chosen = this.isDark ? 'light' : 'dark';
    localStorage.setItem('scheme', this.chosen);
  }
}

export const scheme = new Scheme();
