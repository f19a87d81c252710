/**
 * Gauges that do not type: by a serial line that the browser reads (Web Serial, where it has it), and by the reader program, which sends
 * its lines to the server. Either way each line goes to who listens.
 */
import { ask } from '$lib/api/client';

interface SerialPortLike {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
}
interface SerialLike {
  requestPort(): Promise<SerialPortLike>;
}
const serial = () => (navigator as Navigator & { serial?: SerialLike }).serial;

/** Milliseconds between two asks for lines of the reader program. */
const pace = 400;

export class GaugeLine {
  /** What is connected, in words; empty for nothing. */
  connected = $state('');
  trouble = $state('');
  readonly hasSerial = typeof navigator !== 'undefined' && serial() !== undefined;
  #stop: (() => void) | undefined;
  #heard: (line: string) => Promise<void>;

  constructor(heard: (line: string) => Promise<void>) {
    this.#heard = heard;
  }

  /** Lets the person choose a serial line, and reads it until it is let go. */
  async connectSerial(baudRate = 9600): Promise<void> {
    this.letGo();
    this.trouble = '';
    try {
      const port = await serial()!.requestPort();
      await port.open({ baudRate });
      const reader = port.readable!.getReader();
      let stopped = false;
      this.#stop = () => {
        stopped = true;
        void reader.cancel().then(() => port.close());
      };
      this.connected = 'A gauge on a serial line';
      let rest = '';
      const text = new TextDecoder();
      for (;;) {
        const { value, done } = await reader.read();
        if (done || stopped) break;
        rest += text.decode(value, { stream: true });
        const lines = rest.split(/\r\n|\r|\n/);
        rest = lines.pop() ?? '';
        for (const line of lines) if (line.trim()) await this.#heard(line.trim());
      }
      this.connected = '';
    } catch (problem) {
      this.connected = '';
      this.trouble =
        problem instanceof Error ? `The serial line is not there: ${problem.message}` : 'The line is not there.';
    }
  }

  /** Takes what the reader program sends, from now on. */
  listen(): void {
    this.letGo();
    this.trouble = '';
    this.connected = 'The reader program';
    let stopped = false;
    let last: number | undefined;
    const round = async () => {
      if (stopped) return;
      try {
        const answer = await ask('/api/{site}/bench/gauges/lines', { after: last ?? 0 });
        // What was sent before is not of this sheet.
        const lines = last === undefined ? [] : answer.lines;
        last = answer.last;
        for (const line of lines) if (!stopped) await this.#heard(line.line);
        this.trouble = '';
      } catch {
        this.trouble = 'The server does not answer; it is asked again.';
      }
      if (!stopped) setTimeout(() => void round(), pace);
    };
    this.#stop = () => {
      stopped = true;
    };
    void round();
  }

  letGo(): void {
    this.#stop?.();
    this.#stop = undefined;
    this.connected = '';
  }
}
