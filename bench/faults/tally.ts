import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** What can be said of one trial. */
export type Outcome = 'survived' | 'lost' | 'hung' | 'crashed' | 'wrong sentence';
const COLUMNS: readonly Outcome[] = ['survived', 'lost', 'hung', 'crashed', 'wrong sentence'];

/** Which trials are made: seeds from one on, until a time; each is begun when `ready` says so. */
export interface Trials {
  from: number;
  count: number;
  until: number;
  ready: () => Promise<void>;
}

/** Counts trials by what was tried, and keeps every failure as files that reproduce it. */
export class Tally {
  private readonly counts = new Map<string, Map<Outcome, number>>();
  tried = 0;
  failures = 0;

  constructor(private readonly folder: string) {}

  count(what: string, outcome: Outcome, report = '', file: { name: string; bytes: Buffer } | null = null): void {
    const row = this.counts.get(what) ?? new Map<Outcome, number>();
    row.set(outcome, (row.get(outcome) ?? 0) + 1);
    this.counts.set(what, row);
    this.tried++;
    // A run that is ended early has its table too.
    if (this.tried % 50 === 0) {
      mkdirSync(this.folder, { recursive: true });
      writeFileSync(join(this.folder, 'table.md'), `${this.table()}\n`);
    }
    if (outcome === 'survived') return;
    this.failures++;
    const name = `${String(this.failures).padStart(4, '0')}-${outcome.replace(' ', '-')}`;
    mkdirSync(this.folder, { recursive: true });
    writeFileSync(join(this.folder, `${name}.txt`), `${what}\n${outcome}\n${report}\n`);
    if (file) writeFileSync(join(this.folder, `${name}-${file.name}`), file.bytes);
    console.error(`  ${what}: ${outcome}. ${report.slice(0, 300)}`);
  }

  /** The table of all trials, as Markdown. */
  table(): string {
    const rows = [...this.counts].map(([what, row]) => {
      const tried = [...row.values()].reduce((a, b) => a + b, 0);
      return `| ${what} | ${tried} | ${COLUMNS.map((c) => row.get(c) ?? 0).join(' | ')} |`;
    });
    return [`| what | tried | ${COLUMNS.join(' | ')} |`, `| --- | ${'--- | '.repeat(COLUMNS.length + 1)}`.trim(), ...rows].join('\n');
  }
}

/** A sentence a user can do something with: no raw text of a browser or library, no numbers that are none. */
export function isClear(text: string): boolean {
  return (
    /^[\p{Lu}“][\s\S]{20,}([.!?]|out\.mp4)$/u.test(text.trim()) &&
    !/undefined|NaN|Infinity|\[object|null\b|TypeError|RangeError|is not a function|Decoding error|DOMException/.test(text)
  );
}
