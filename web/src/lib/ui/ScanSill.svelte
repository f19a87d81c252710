<script lang="ts">
  /** The sill at the foot: one field, focused by any scan anywhere; it says what it read and what comes next. */
  import ScanBarcode from '@lucide/svelte/icons/scan-barcode';
  import { scanLine, shown } from '$lib/scan.svelte';
  import type { Snippet } from 'svelte';
  import { scanner } from '$lib/scanner.svelte';
  import { Burst, isCode, isQuantity } from './burst';
  let { tools }: { tools?: Snippet } = $props();

  const printable = (event: KeyboardEvent) =>
    event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey;
  const isField = (target: EventTarget | null) =>
    target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]');

  type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;
  const burst = new Burst(() => scanner.settings.pace);
  const dialog = () => document.querySelector('[role="dialog"][data-state="open"]');
  const holdsText = (target: EventTarget | null): target is Field =>
    target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement;
  /** A text was laid into a field at once, without keys; the Enter that may follow belongs to it. */
  let laidAt = -Infinity;

  function giveBack(field: Field, value: string) {
    if (field.value === value) return;
    field.value = value;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.dispatchEvent(new Event('change', { bubbles: true }));
  }

  /**
   * A scan presses no button and sends no form, wherever the focus is. In a form that says data-scans="line", and in a dialog, it goes to
   * the line and the field keeps what was typed; a field that says data-scans="here" takes it; any other keeps the text and no more.
   */
  function onkeydowncapture(event: KeyboardEvent) {
    const target = event.target;
    if (event.isComposing || target === scanLine.field) return;
    const separator = event.ctrlKey && event.key === ']';
    if (separator || printable(event))
      burst.key(separator ? '\u001d' : event.key, event.timeStamp, holdsText(target) ? target.value : '');
    if (separator && holdsText(target)) event.preventDefault();
    if (event.key !== 'Enter' && event.key !== 'Tab') return;
    const scanned = burst.end(event.timeStamp);
    const isLaid = event.key === 'Enter' && event.timeStamp - laidAt < 400;
    if (!scanned && !isLaid) return;
    if (target instanceof HTMLElement && target.closest('[data-scans="here"]')) return;
    event.preventDefault();
    event.stopPropagation();
    const inDialog = dialog() !== null;
    const forLine = target instanceof HTMLElement && target.closest('[data-scans="line"]') !== null;
    if (!scanned || !(inDialog || forLine || !holdsText(target))) return;
    if (holdsText(target)) giveBack(target, scanned.before);
    void scanLine.scan(scanned.text);
  }

  /** Some devices lay the whole code into the field at once: told by its form, and by what the field can hold. */
  function onbeforeinputcapture(event: InputEvent) {
    const target = event.target;
    if (!(target instanceof HTMLInputElement)) return;
    const laid = event.data ?? event.dataTransfer?.getData('text') ?? '';
    if (laid.length < Burst.least || event.isComposing) return;
    const text = laid.replace(/[\r\n\t]+$/, '');
    const ends = text !== laid;
    if (target === scanLine.field) {
      if (!ends && !isCode(text)) return;
    } else {
      const isAmount = target.inputMode === 'decimal' || target.inputMode === 'numeric';
      const forLine = target.closest('[data-scans="line"]') !== null;
      if (!forLine || !(isAmount ? !isQuantity(text) : isCode(text))) return;
    }
    event.preventDefault();
    laidAt = event.timeStamp;
    void scanLine.scan(text);
  }

  function onpaste(event: ClipboardEvent) {
    if (isField(event.target)) return;
    const text = event.clipboardData?.getData('text').trim() ?? '';
    if (text.length < Burst.least) return;
    event.preventDefault();
    laidAt = event.timeStamp;
    void scanLine.scan(text);
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.altKey && event.key.toLowerCase() === 's') {
      event.preventDefault();
      scanLine.field?.focus();
      return;
    }
    if (isField(event.target) || dialog()) return;
    // A scanner is a keyboard: what it types goes to the line, wherever the focus is. FNC1 comes as Ctrl+].
    if (event.ctrlKey && event.key === ']') {
      event.preventDefault();
      scanLine.text += '\u001d';
      scanLine.field?.focus();
    } else if (printable(event) && event.key !== ' ') {
      event.preventDefault();
      scanLine.text += event.key;
      scanLine.field?.focus();
    }
  }

  function typed(event: KeyboardEvent) {
    if (event.ctrlKey && event.key === ']') {
      event.preventDefault();
      scanLine.text += '\u001d';
    }
    if (event.key === 'Escape') scanLine.text = '';
    if (event.key !== 'Enter') return;
    event.preventDefault();
    // Straight from the field: what was typed last may not have come back through the binding yet.
    const text = (scanLine.field?.value ?? scanLine.text).trim();
    scanLine.text = '';
    if (text) void scanLine.scan(text);
  }
</script>

<svelte:window {onkeydown} {onkeydowncapture} {onpaste} />
<svelte:document {onbeforeinputcapture} />

<footer class="sill">
  <label class="line">
    <ScanBarcode size={18} />
    <input
      bind:this={scanLine.field}
      bind:value={scanLine.text}
      onkeydown={typed}
      id="scan"
      placeholder="Scan or type"
      aria-label="Scan line"
      autocomplete="off"
      autocapitalize="off"
      spellcheck="false"
      enterkeyhint="done"
    />
    <kbd>Alt S</kbd>
  </label>
  <div class="words" aria-live="polite" data-tone={scanLine.said.tone ?? ''} id="said">
    {#if scanLine.said.words}
      <span class="understood"
        >{#if scanLine.said.read}<b>Read</b>{/if}
        {scanLine.said.words}</span
      >
      <span class="c code">{shown(scanLine.said.read ?? '')}</span>
    {:else}
      <span class="understood">Nothing read yet.</span>
    {/if}
  </div>
  <div class="next"><em>Next:</em> {scanLine.waiting > 0 ? 'one moment' : (scanLine.said.next ?? 'scan a label')}</div>
  {#if tools}<div class="tools">{@render tools()}</div>{/if}
</footer>

<style>
  .sill {
    flex: none;
    background: var(--sill);
    color: var(--sill-ink);
    display: grid;
    grid-template-columns: 256px minmax(0, 1fr) minmax(140px, 300px) auto;
    align-items: center;
    gap: 16px;
    padding: 9px 16px;
    min-height: 60px;
  }
  .line {
    display: flex;
    align-items: center;
    gap: 9px;
    height: 40px;
    border: 1.5px solid var(--sill-line);
    border-radius: 4px;
    background: var(--sill-2);
    padding: 0 8px 0 10px;
    color: var(--sill-quiet);
  }
  .line:focus-within {
    outline: 3px solid var(--sill-lamp);
  }
  input {
    flex: 1;
    min-width: 0;
    background: none;
    border: 0;
    color: var(--sill-ink);
    font-family: var(--code);
    font-size: 15px;
    padding: 0;
  }
  input:focus {
    outline: none;
    box-shadow: none;
  }
  input::placeholder {
    color: var(--sill-quiet);
    font-family: var(--word);
    opacity: 1;
  }
  kbd {
    font: 600 12px/1 var(--code);
    border: 1px solid var(--sill-line);
    border-radius: 3px;
    padding: 3px 5px;
  }
  .words {
    font-size: 14px;
    line-height: 1.35;
    overflow: hidden;
  }
  .words .c {
    color: var(--sill-lamp);
  }
  .code {
    display: block;
    font-size: 13px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .understood {
    display: block;
    color: var(--sill-ink);
  }
  .words[data-tone='refused'] .understood {
    color: #ffb48a;
    font-weight: 600;
  }
  .next {
    font-size: 14px;
    line-height: 1.35;
    padding-left: 16px;
    border-left: 1.5px solid var(--sill-line);
  }
  .tools {
    display: flex;
    gap: 8px;
  }
  em {
    font-style: normal;
    color: var(--sill-quiet);
  }
  /* On a narrower screen what comes next stands below what was read. */
  @media (max-width: 1000px) {
    .sill {
      grid-template-columns: 220px minmax(0, 1fr) auto;
      row-gap: 2px;
    }
    .line,
    .tools {
      grid-row: 1 / span 2;
    }
    .next {
      grid-column: 2;
      grid-row: 2;
      border-left: 0;
      padding-left: 0;
    }
  }
  @media (max-width: 700px) {
    .sill {
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 6px;
      padding: 8px 14px 12px;
    }
    .words,
    .next {
      grid-column: 1/-1;
      grid-row: auto;
      order: -1;
      font-size: 15px;
    }
    .next {
      margin-top: -4px;
    }
    .line,
    .tools {
      grid-row: auto;
    }
    .words[data-tone='taken'] .code,
    .words[data-tone='look'] .code {
      display: none;
    }
    .line {
      height: 48px;
    }
    kbd {
      display: none;
    }
    .tools {
      gap: 6px;
    }
    .tools :global(.button) {
      padding: 0 9px;
    }
    .tools :global(.desk) {
      display: none;
    }
  }
</style>
