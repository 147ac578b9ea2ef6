import { say } from '../language.js';

/** A stable code, the HTTP status it has where it leaves the server, and a sentence: what is wrong and what to do. */
export type Coded = { status: number; code: string; sentence: string };

/** Its sentence is looked up when it is read, in the language of whoever reads it. */
export const coded = (status: number, code: string, sentence: string): Coded => ({
  status,
  code,
  get sentence() {
    return say(sentence);
  },
});

/** An error of the catalogue, thrown. Its message is the sentence. */
export class CodedError extends Error {
  readonly status: number;
  readonly code: string;

  constructor({ status, code, sentence }: Coded) {
    super(sentence);
    this.status = status;
    this.code = code;
  }
}
