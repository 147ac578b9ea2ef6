import { say } from '@viaticum/contract';
/** A caption as it stands in a file; times in seconds, `line` the number of its time line. */
export type Cue = { from: number; to: number; text: string; line: number; id?: string; settings?: string };
/** What is wrong in a file of captions, with its line and what was done about it. */
export type CaptionFault = { line: number; words: string };
export type CaptionFile = { kind: 'vtt' | 'srt'; cues: Cue[]; faults: CaptionFault[] };

/** The most that is read of a file: its bytes, its captions, and its length in seconds. */
export const captionLimits = { bytes: 20_000_000, cues: 50_000, seconds: 360_000 };

const TIME = String.raw`(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{1,3})`;
const ARROW = new RegExp(String.raw`^\s*${TIME}\s*--?>\s*${TIME}(.*)$`);
const ANY_ARROW = /--?>/;
const LOOKS_TIMED = /\d\s*--?>\s*\d/;
const BLOCK = /^(NOTE|STYLE|REGION)\b/;
export const INNER_TIME = new RegExp(`<${TIME}>`, 'g');

export const secondsOf = (h: string | undefined, m: string, s: string, f: string): number =>
  ((Number(h ?? 0) * 3600 + Number(m) * 60 + Number(s)) * 1000 + Number(f.padEnd(3, '0'))) / 1000;

/**
 * Captions of a WebVTT or SRT file (W3C WebVTT; SubRip as it is commonly written). Keeps what can be kept: a byte-order mark, CRLF, missing
 * hours, comma or point, a missing header, no empty line before a number and `->` are read; every fault comes with its line and a sentence.
 * Throws a sentence only where the file is larger than {@link captionLimits}.
 */
export function readCaptions(source: string): CaptionFile {
  if (source.length > captionLimits.bytes)
    throw new RangeError(say('This file of captions is larger than 20 MB. Cut it into parts.'));
  const reader = new Reader(source.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/));
  reader.readAll();
  return reader.file();
}

class Reader {
  private readonly cues: Cue[] = [];
  private readonly faults: CaptionFault[] = [];
  private readonly isVtt: boolean;
  private at = 0;

  constructor(private readonly lines: readonly string[]) {
    this.isVtt = /^WEBVTT(?:[ \t]|$)/.test(lines[0] ?? '');
    if (this.isVtt) {
      this.at = 1;
      while (this.isText() && !this.here.includes('-->')) this.at++;
    }
  }

  private get here(): string {
    return this.lines[this.at] ?? '';
  }
  private isText(): boolean {
    return this.at < this.lines.length && this.here.trim() !== '';
  }
  private fault(line: number, words: string): void {
    this.faults.push({ line, words: say`Line ${line}: ${words}` });
  }

  readAll(): void {
    while (this.at < this.lines.length) {
      if (!this.isText()) this.at++;
      else if (this.isVtt && BLOCK.test(this.here)) while (this.isText()) this.at++;
      else this.readOne();
      if (this.cues.length > captionLimits.cues) {
        this.fault(this.at, say`more than ${captionLimits.cues} captions. The rest was left out.`);
        return;
      }
    }
  }

  private readOne(): void {
    let id: string | undefined;
    let timed = ARROW.exec(this.here);
    if (!timed && !ANY_ARROW.test(this.here) && LOOKS_TIMED.test(this.lines[this.at + 1] ?? '')) {
      id = this.here.trim();
      this.at++;
      timed = ARROW.exec(this.here);
    }
    if (!timed) {
      const isTime = ANY_ARROW.test(this.here);
      this.fault(
        this.at + 1,
        isTime ? say('this time cannot be read. The caption was left out.') : say('words without a time. They were left out.'),
      );
      this.at++;
      while (this.isText() && !this.here.includes('-->')) this.at++;
      return;
    }
    const line = ++this.at;
    const text = this.textOf();
    this.keep(timed, text, line, id);
  }

  /** The words under a time line. Without an empty line between, a bare number directly before a time line is the next caption's. */
  private textOf(): string {
    const text: string[] = [];
    while (this.isText() && !ARROW.test(this.here)) {
      if (/^\d+$/.test(this.here.trim()) && ARROW.test(this.lines[this.at + 1] ?? '')) break;
      text.push(this.here);
      this.at++;
    }
    return text.join('\n');
  }

  private keep(timed: RegExpExecArray, text: string, line: number, id: string | undefined): void {
    const [, h1, m1 = '', s1 = '', f1 = '', h2, m2 = '', s2 = '', f2 = '', rest = ''] = timed;
    const from = secondsOf(h1, m1, s1, f1);
    let to = secondsOf(h2, m2, s2, f2);
    if ([m1, s1, m2, s2].some((part) => Number(part) > 59)) this.fault(line, say('minutes or seconds above 59. Reckoned on.'));
    if (to < from) {
      this.fault(line, say('ends before it begins. Given one second.'));
      to = from + 1;
    }
    if (!text.trim()) {
      this.fault(line, say('a time without words. Left out.'));
      return;
    }
    const settings = rest.trim();
    this.cues.push({ from, to, text, line, ...(id && { id }), ...(settings && { settings }) });
  }

  file(): CaptionFile {
    const { cues, faults } = this;
    if (cues.length === 0)
      faults.push({
        line: 1,
        words: say('No captions were found. A caption needs a line such as 00:01:04.000 --> 00:01:07.500 and words below it.'),
      });
    const early = cues.find((cue, i) => i > 0 && cue.from < (cues[i - 1] as Cue).from - 1e-9);
    if (early) this.fault(early.line, say('begins before the caption above it. Put in order.'));
    return {
      kind: this.isVtt ? 'vtt' : 'srt',
      cues: [...cues].sort((a, b) => a.from - b.from || a.line - b.line),
      faults: faults.sort((a, b) => a.line - b.line),
    };
  }
}
