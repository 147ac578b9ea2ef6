import type { Correction, Reference } from '@viaticum/contract';
import { takenAs } from '@viaticum/contract';
import { canvasToPixel, correctionGains } from '@viaticum/core/picture';
import { labToSrgb, linearToSrgb, srgbToLinear } from '@viaticum/kernels/colour';
import { useRef, useState } from 'react';
import { pictureUrl } from '../../../api/queries.js';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useLaying } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { words } from '../../../words/words.js';
import { useEasel, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import { useTakePicture } from '../take-picture.js';

const w = words.picture;
const kinds = Object.keys(w.permissions) as Reference['permission']['kind'][];
const roles = ['whole', 'detail', 'light'] as const;
const SPOT_MM = 3;

/** The references of the lesson: what each is for, whose it is, and how far its colours can be trusted. */
export function SourceTopic() {
  const lesson = useLesson();
  const picture = useTakePicture();
  const input = useRef<HTMLInputElement>(null);
  const replacing = useRef<string | null>(null);
  const ask = (old: string | null) => {
    replacing.current = old;
    input.current?.click();
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        className="visually-hidden"
        tabIndex={-1}
        aria-label={w.choose}
        onChange={(event) => {
          picture.take(event.target.files?.[0], replacing.current);
          event.target.value = '';
        }}
      />
      {lesson.references.length === 0 && <p className="quiet">{w.empty}</p>}
      {lesson.references.map((reference, i) => (
        <OneReference
          key={reference.id}
          reference={reference}
          at={i}
          onReplace={() => ask(reference.id)}
          isBusy={picture.isBusy}
        />
      ))}
      <p className="picture-upload">
        <button
          type="button"
          className={`key${lesson.references.length > 0 ? '' : ' main'}`}
          onClick={() => ask(null)}
          disabled={picture.isBusy}
        >
          {picture.isBusy ? w.uploading : lesson.references.length > 0 ? w.another : w.choose}
        </button>
        {lesson.references.length === 0 && <span className="small quiet">{w.drop}</span>}
      </p>
      {lesson.references.length === 0 && <p className="quiet small">{w.without}</p>}
      {picture.error && (
        <p className="signal" role="alert">
          {picture.error.message}
        </p>
      )}
    </>
  );
}

function OneReference({
  reference,
  at,
  onReplace,
  isBusy,
}: {
  reference: Reference;
  at: number;
  onReplace: () => void;
  isBusy: boolean;
}) {
  const lesson = useLesson();
  const session = useSession();
  const isWhole = wholeOf(lesson)?.id === reference.id;
  const { permission } = reference;
  const permit = (change: Partial<Reference['permission']>) =>
    session.do('setPermission', { id: reference.id, permission: { ...permission, ...change } });
  return (
    <section className="reference">
      <p className="reference-head">
        <img
          src={pictureUrl(reference.pictureSha256, 'thumb')}
          alt={w.referenceName(w.roles[reference.role], at + 1)}
          height={72}
        />
        <span>
          <button type="button" className="key bare small" onClick={onReplace} disabled={isBusy}>
            {w.replace}
          </button>
          <button type="button" className="key bare small" onClick={() => session.do('removeReference', { id: reference.id })}>
            {w.remove}
          </button>
        </span>
      </p>
      <label className="field">
        <span>{w.role}</span>
        <select
          value={reference.role}
          onChange={(event) =>
            session.do('setReferenceRole', { id: reference.id, role: event.target.value as (typeof roles)[number] })
          }
        >
          {roles.map((role) => (
            <option key={role} value={role}>
              {w.roles[role]}
            </option>
          ))}
        </select>
      </label>
      <label className="field">
        <span>{w.source}</span>
        <select value={permission.kind} onChange={(event) => permit({ kind: event.target.value as (typeof kinds)[number] })}>
          {kinds.map((kind) => (
            <option key={kind} value={kind}>
              {w.permissions[kind]}
            </option>
          ))}
        </select>
      </label>
      {permission.kind !== 'unset' && (
        <div className="picture-canvas">
          <div className="field">
            <span>{w.by}</span>
            <CommitInput
              className="plain-input"
              value={permission.by ?? ''}
              label={w.by}
              onCommit={(by) => permit({ by: by.trim() })}
            />
          </div>
          <label className="field">
            <span>{w.year}</span>
            <input
              type="number"
              min={0}
              max={3000}
              key={permission.year}
              defaultValue={permission.year}
              onBlur={(event) => {
                const year = Math.round(Number(event.target.value));
                if (event.target.value && year >= 0 && year <= 3000 && year !== permission.year) permit({ year });
              }}
            />
          </label>
        </div>
      )}
      <label className="field">
        <span>{w.taken}</span>
        <select
          value={reference.taken ?? 'unknown'}
          onChange={(event) =>
            session.do('setTaken', { id: reference.id, taken: event.target.value as (typeof takenAs)[number] })
          }
        >
          {takenAs.map((taken) => (
            <option key={taken} value={taken}>
              {w.takenAs[taken]}
            </option>
          ))}
        </select>
      </label>
      <p className="quiet small">{w.trust[reference.taken ?? 'unknown']}</p>
      {isWhole && <Correct reference={reference} />}
    </section>
  );
}

/** A neutral and a white spot picked on the easel; the whole picture is corrected by them. */
function Correct({ reference }: { reference: Reference }) {
  const session = useSession();
  const { setMode } = useEasel();
  const { worker } = useLaying();
  const [picking, setPicking] = useState<'neutral' | 'white' | null>(null);
  useHint(picking ? w.correct.hint[picking] : '');
  const pick = async (place: [number, number]) => {
    const which = picking as 'neutral' | 'white';
    setPicking(null);
    setMode('look');
    const { answer } = worker.ask('spots', { places: [place], radiusMm: SPOT_MM });
    const [lab] = await answer;
    if (!lab) return;
    // What is seen is corrected already: the spot is kept as it is in the picture itself.
    const gains = correctionGains(reference.correction);
    const rgb = labToSrgb(lab).map((value, c) =>
      Math.round(255 * Math.min(1, Math.max(0, linearToSrgb(srgbToLinear(value) / (gains[c as 0] as number))))),
    ) as [number, number, number];
    const [xPx, yPx] = canvasToPixel(reference, reference.placement, place);
    const correction: Correction = { ...reference.correction, [which]: { xPx, yPx, rgb } };
    session.do('setCorrection', { id: reference.id, correction });
  };
  return (
    <div className="correct">
      <p className="picture-toggles">
        {(['neutral', 'white'] as const).map((which) => (
          <button
            key={which}
            type="button"
            className="key"
            aria-pressed={picking === which}
            onClick={() => {
              setPicking(picking === which ? null : which);
              setMode(picking === which ? 'look' : 'place');
            }}
          >
            {w.correct[which]}
          </button>
        ))}
        {reference.correction && (
          <button
            type="button"
            className="key bare small"
            onClick={() => session.do('setCorrection', { id: reference.id, correction: null })}
          >
            {w.correct.clear}
          </button>
        )}
      </p>
      {picking && <p className="quiet small">{w.correct.hint[picking]}</p>}
      {reference.correction && <p className="small">{w.correct.done}</p>}
      {picking && (
        <OnCanvas>
          <Face label={w.correct.hint[picking]} onTap={(at) => void pick(at)} />
        </OnCanvas>
      )}
    </div>
  );
}
