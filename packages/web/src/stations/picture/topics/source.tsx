import type { Correction, Reference } from '@viaticum/contract';
import { takenAs } from '@viaticum/contract';
import { canvasToPixel, correctionGains } from '@viaticum/core/picture';
import { labToSrgb, linearToSrgb, srgbToLinear } from '@viaticum/kernels/colour';
import { Button, Select } from 'antd';
import { useState } from 'react';
import { pictureUrl } from '../../../api/queries.js';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useLaying } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { FileKey, PICTURES } from '../../../ui/file-key.js';
import { NumberField } from '../../../ui/number-field.js';
import { words } from '../../../words/words.js';
import { useEasel, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import { useTakePicture } from '../take-picture.js';
import css from './source.module.css';

const w = words.picture;
const kinds = Object.keys(w.permissions) as Reference['permission']['kind'][];
const roles = ['whole', 'detail', 'light'] as const;
const SPOT_MM = 3;

/** The references of the lesson: what each is for, whose it is, and how far its colours can be trusted. */
export function SourceTopic() {
  const lesson = useLesson();
  const picture = useTakePicture();
  return (
    <>
      {lesson.references.length === 0 && <p className="quiet">{w.empty}</p>}
      {lesson.references.map((reference, i) => (
        <OneReference
          key={reference.id}
          reference={reference}
          at={i}
          onReplace={(file) => picture.take(file, reference.id)}
          isBusy={picture.isBusy}
        />
      ))}
      <div className={css.pictureUpload} data-testid="picture-upload">
        <FileKey
          size="middle"
          type={lesson.references.length > 0 ? 'default' : 'primary'}
          label={picture.isBusy ? w.uploading : lesson.references.length > 0 ? w.another : w.choose}
          accept={PICTURES}
          disabled={picture.isBusy}
          onFile={(file) => picture.take(file, null)}
        />
        {lesson.references.length === 0 && <span className="small quiet">{w.drop}</span>}
      </div>
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
  onReplace: (file: File) => void;
  isBusy: boolean;
}) {
  const lesson = useLesson();
  const session = useSession();
  const isWhole = wholeOf(lesson)?.id === reference.id;
  const { permission } = reference;
  const permit = (change: Partial<Reference['permission']>) =>
    session.do('setPermission', { id: reference.id, permission: { ...permission, ...change } });
  return (
    <section className={css.reference} data-testid="reference">
      <div className={css.referenceHead}>
        <img
          src={pictureUrl(reference.pictureSha256, 'thumb')}
          alt={w.referenceName(w.roles[reference.role], at + 1)}
          height={72}
        />
        <span>
          <FileKey type="text" label={w.replace} accept={PICTURES} disabled={isBusy} onFile={onReplace} />
          <Button type="text" size="small" onClick={() => session.do('removeReference', { id: reference.id })}>
            {w.remove}
          </Button>
        </span>
      </div>
      <div className="field">
        <span>{w.role}</span>
        <Select
          aria-label={w.role}
          value={reference.role}
          onChange={(given) => session.do('setReferenceRole', { id: reference.id, role: given as (typeof roles)[number] })}
          options={roles.map((role) => ({ value: role, label: w.roles[role] }))}
        />
      </div>
      <div className="field">
        <span>{w.source}</span>
        <Select
          aria-label={w.source}
          value={permission.kind}
          onChange={(given) => permit({ kind: given as (typeof kinds)[number] })}
          options={kinds.map((kind) => ({ value: kind, label: w.permissions[kind] }))}
        />
      </div>
      {permission.kind !== 'unset' && (
        <div className={pictureCss.pictureCanvas}>
          <div className="field">
            <span>{w.by}</span>
            <CommitInput value={permission.by ?? ''} label={w.by} onCommit={(by) => permit({ by: by.trim() })} />
          </div>
          <div className="field">
            <span>{w.year}</span>
            <NumberField
              label={w.year}
              value={permission.year}
              onValue={(year) => year >= 0 && year <= 3000 && permit({ year: Math.round(year) })}
              onClear={() => false}
            />
          </div>
        </div>
      )}
      <div className="field">
        <span>{w.taken}</span>
        <Select
          aria-label={w.taken}
          value={reference.taken ?? 'unknown'}
          onChange={(given) => session.do('setTaken', { id: reference.id, taken: given as (typeof takenAs)[number] })}
          options={takenAs.map((taken) => ({ value: taken, label: w.takenAs[taken] }))}
        />
      </div>
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
    <div className={css.correct}>
      <p className={pictureCss.pictureToggles}>
        {(['neutral', 'white'] as const).map((which) => (
          <Button
            type={picking === which ? 'primary' : 'default'}
            key={which}
            aria-pressed={picking === which}
            onClick={() => {
              setPicking(picking === which ? null : which);
              setMode(picking === which ? 'look' : 'place');
            }}
          >
            {w.correct[which]}
          </Button>
        ))}
        {reference.correction && (
          <Button type="text" size="small" onClick={() => session.do('setCorrection', { id: reference.id, correction: null })}>
            {w.correct.clear}
          </Button>
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
