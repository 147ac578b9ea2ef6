/** A stable code, the HTTP status it has where it leaves the server, and a sentence: what is wrong and what to do. */
export type Coded = { status: number; code: string; sentence: string };

export const coded = (status: number, code: string, sentence: string): Coded => ({ status, code, sentence });

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
