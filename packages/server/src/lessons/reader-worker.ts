import { type Coded, NewLesson, SaveLesson, say, sentenceFor, serverErrors } from '@viaticum/contract';
import { lessonFaults, upgradeLesson } from '@viaticum/core/document';
import { Ajv } from 'ajv';
import { ApiFault } from '../errors.js';
import { assertModest } from '../guard/body.js';
import { type ShownLesson, shown } from './shown.js';

/** `borne`: the document alone, as it came in a package, which may be of an earlier version; `shown`: one that is stored. */
export type ReaderJob = { bytes: Uint8Array; kind: 'new' | 'save' | 'borne' | 'shown' };
/** A lesson that is saved over: what lists show of it takes longer than to store it, and is asked for afterwards (`shown`). */
export type SavedLesson = { baseRevision: number; text: string; title: string };
export type ReadLesson = SavedLesson & ShownLesson;
export type ReaderAnswer = ReadLesson | SavedLesson | ShownLesson | { fault: Coded };

/** Of a larger body the first problem is enough: nonsense has hundreds of thousands. */
const MOST_FOR_ALL = 256 * 1024;
const compiled = new Map<string, ReturnType<Ajv['compile']>>();
/** Compiled once; that takes a third of a second each. */
function validatorOf(kind: 'new' | 'save', allErrors: boolean) {
  const key = `${kind} ${allErrors}`;
  const known = compiled.get(key);
  if (known) return known;
  const ajv = new Ajv({ removeAdditional: false, coerceTypes: false, allErrors, strict: false });
  const fresh = ajv.compile(kind === 'new' ? NewLesson : SaveLesson);
  compiled.set(key, fresh);
  return fresh;
}
for (const kind of ['save', 'new'] as const) validatorOf(kind, true);

function read({ bytes, kind }: ReaderJob): Exclude<ReaderAnswer, { fault: Coded }> {
  assertModest(bytes);
  let body: unknown;
  try {
    body = JSON.parse(Buffer.from(bytes).toString('utf8'));
  } catch {
    throw new ApiFault(serverErrors.requestUnreadable);
  }
  if (kind === 'shown') return shown(upgradeLesson(body as Parameters<typeof upgradeLesson>[0]));
  if (kind === 'borne') body = { document: upgraded(body) };
  const validate = validatorOf(kind === 'save' ? 'save' : 'new', bytes.length <= MOST_FOR_ALL);
  if (!validate(body)) throw new ApiFault(serverErrors.invalid(sentenceFor(validate.errors ?? [])));
  const { document, baseRevision = 0 } = body as SaveLesson;
  const [fault] = lessonFaults(document);
  if (fault) throw new ApiFault(serverErrors.lessonUnsound(fault));
  const saved = { baseRevision, text: JSON.stringify(document), title: document.title };
  return kind === 'save' ? saved : { ...saved, ...shown(document) };
}

/** A document of any version in today's form; throws a sentence where it is none. */
function upgraded(body: unknown): unknown {
  try {
    return upgradeLesson(body as Parameters<typeof upgradeLesson>[0]);
  } catch (fault) {
    // What is none of our sentences tripped over its form.
    const { message } = fault as Error;
    throw new ApiFault(
      serverErrors.invalid(
        /^This lesson .*\.$|^Lessons of .*\.$/.test(message) ? message : say('It is not written as a lesson is.'),
      ),
    );
  }
}

/** Reads a request that holds a lesson: parsed, validated, looked over for what cannot be. */
export default function work(job: ReaderJob): ReaderAnswer {
  try {
    return read(job);
  } catch (fault) {
    if (fault instanceof ApiFault) return { fault: { status: fault.status, code: fault.code, sentence: fault.message } };
    throw fault;
  }
}
