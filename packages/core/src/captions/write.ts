const pad = (n: number, digits = 2): string => String(n).padStart(digits, '0');

/** Seconds as "01:02:03.450"; SRT has a comma before the thousandths. */
export function stamp(seconds: number, mark: '.' | ',' = '.'): string {
  const ms = Math.max(0, Math.round(seconds * 1000));
  return `${pad(Math.floor(ms / 3_600_000))}:${pad(Math.floor(ms / 60_000) % 60)}:${pad(Math.floor(ms / 1000) % 60)}${mark}${pad(ms % 1000, 3)}`;
}

/** A timed text as it is written: an id where it has one, times in seconds. */
export type TimedText = { from: number; to: number; text: string; id?: string };

/** No empty line may stand within a caption: it would end it. */
const closed = (text: string): string => text.replace(/\n[ \t]*(?=\n)/g, '').trim();
const escaped = (text: string): string => closed(text).replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

/** A WebVTT file (W3C WebVTT). `header` stands beside its first word. */
export const toVtt = (cues: readonly TimedText[], header = ''): string => {
  const title = header.replace(/-->/g, '→').replace(/\s+/g, ' ').trim();
  const blocks = cues.map(
    ({ from, to, text, id }) => `${id ? `${id}\n` : ''}${stamp(from)} --> ${stamp(to)}\n${escaped(text)}\n`,
  );
  return `WEBVTT${title ? ` - ${title}` : ''}\n\n${blocks.join('\n')}`;
};

/** A WebVTT file whose cues hold JSON for a program (`kind=metadata`): no words are escaped in it, as none are shown. */
export const toMetadataVtt = (cues: readonly { from: number; to: number; data: unknown }[], header = ''): string =>
  `WEBVTT${header ? ` - ${header}` : ''}\n\n${cues.map(({ from, to, data }) => `${stamp(from)} --> ${stamp(to)}\n${JSON.stringify(data).replace(/-->/g, '--\\u003e')}\n`).join('\n')}`;

/** A SubRip file: numbered from 1, a comma before the thousandths, CRLF. */
export const toSrt = (cues: readonly TimedText[]): string =>
  cues
    .map(({ from, to, text }, i) => {
      const lines = closed(text).replace(/-->/g, '→').replace(/\n/g, '\r\n');
      return `${i + 1}\r\n${stamp(from, ',')} --> ${stamp(to, ',')}\r\n${lines}\r\n`;
    })
    .join('\r\n');
