/** For a form that opens on a press somewhere else on the page: it is brought into sight, and its first field has the focus. */
export function inSight(form: HTMLElement) {
  form.scrollIntoView({ block: 'nearest' });
  form.querySelector<HTMLElement>('input, select')?.focus();
}
