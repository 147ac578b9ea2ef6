declare module 'pino-roll' {
  import type { Writable } from 'node:stream';

  type Options = {
    file: string;
    extension?: string;
    size?: string;
    limit?: { count: number };
    mkdir?: boolean;
    mode?: number;
  };
  /** A stream into a file that is put aside when it has grown, as SonicBoom makes it. */
  export default function roll(options: Options): Promise<Writable>;
}
