import type { LoggedResult } from '@viaticum/contract';
import { groupResults, offInWords, resultOf, showsPicture } from '@viaticum/core/log';
import { pathData } from '@viaticum/core/transfer';
import { listInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { useWorkedOut } from '../../../lesson/context.js';
import { useBlobUrl } from '../../../lesson/laid.js';
import { Choice } from '../../../ui/choice.js';
import { CornerPicker } from '../../../ui/corner-picker.js';
import { FileKey, PICTURES } from '../../../ui/file-key.js';
import { Fold } from '../../../ui/fold.js';
import { transferWords } from '../../../words/transfers.js';
import { useDrawing } from '../drawing-context.js';
import transfersCss from '../transfers.module.css';
import { type Compared, useComparison } from '../use-comparison.js';
import css from './check.module.css';

const w = transferWords.check;

/** A photograph of a drawing or canvas, compared with the template: sizes, angles, landmarks, values, in words. */
export function CheckTopic() {
  const lesson = useWorkedOut();
  const { shown } = useDrawing();
  const { photo, setPhoto, result, setResult, fault, isBusy, choose, compare } = useComparison(shown);
  const [after, setAfter] = useState('');
  const [group, setGroup] = useState<readonly LoggedResult[]>([]);
  const measured = async () => {
    const found = await compare(after || null);
    if (found && showsPicture(found)) setGroup([...group, { id: `${group.length}`, ...resultOf(found, lesson.support.widthMm) }]);
  };
  const corners = photo && (
    <>
      <p className="small">{photo.wasFound ? w.found : w.pickThem}</p>
      <div className={css.checkPicture} style={{ aspectRatio: `${photo.widthPx} / ${photo.heightPx}` }}>
        <CornerPicker photo={photo} onCorners={(corners) => setPhoto({ ...photo, corners })} />
      </div>
      <Button type="primary" disabled={isBusy} onClick={() => void measured()}>
        {isBusy ? w.comparing : w.compare}
      </Button>
    </>
  );
  return (
    <>
      <p className="quiet small">
        {w.about} {w.kept}
      </p>
      <div className={transfersCss.keys}>
        <FileKey label={w.choose} accept={PICTURES} onFile={(file) => void choose(file)} />
      </div>
      <Choice
        label={w.what}
        value={after}
        options={[
          ['', w.drawing],
          ...lesson.steps.flatMap((step, i) =>
            step.kind === 'paint' ? [[step.id, w.afterStep(i + 1, step.title)] as const] : [],
          ),
        ]}
        onChange={(value) => {
          setAfter(value);
          setResult(null);
          setGroup([]);
        }}
      />
      {fault && (
        <p className="signal small" role="alert">
          {fault}
        </p>
      )}
      {result && <Found result={result} />}
      {result && photo ? <Fold head={<span className="small">{w.photo}</span>}>{corners}</Fold> : corners}
      <Together group={group} onClear={() => setGroup([])} />
    </>
  );
}

/** What is off alike is said in one sentence. */
function together(errors: readonly { name: string; words: string }[]): string[] {
  const byWords = new Map<string, string[]>();
  for (const { name, words } of errors) byWords.set(words, [...(byWords.get(words) ?? []), name]);
  return [...byWords].map(([words, names]) => w.off(listInWords(names), words));
}

function Found({ result }: { result: Compared }) {
  const { support } = useWorkedOut();
  const [isHeld, setHeld] = useState(false);
  const said = [
    ...together([
      ...result.things.flatMap(({ name, words }) => (words.length > 0 ? [{ name, words: words.join(', ') }] : [])),
      ...result.values,
    ]),
    ...result.landmarks.flatMap(({ name, offMm, isOff }) => (isOff ? [w.landmark(name, offMm)] : [])),
  ];
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    heading.current?.scrollIntoView({ block: 'nearest' });
  }, []);
  return (
    <section className={css.checkFound} data-testid="check-found" aria-live="polite">
      <h3 ref={heading}>{said.length === 0 ? w.right : w.differs(said.length)}</h3>
      <ul>
        {said.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {result.expected && (
        <Button type={isHeld ? 'primary' : 'default'} size="small" aria-pressed={isHeld} onClick={() => setHeld(!isHeld)}>
          {w.expected}
        </Button>
      )}
      {result.quarterTurns > 0 && <p className="small">{w.turned}</p>}
      {result.notFound.length > 0 && <p className="small quiet">{w.notFound(listInWords(result.notFound))}</p>}
      {result.values.length > 0 && <p className="small quiet">{w.valueNote}</p>}
      <div className={css.checkPicture} style={{ aspectRatio: `${support.widthMm} / ${support.heightMm}` }}>
        <Overlay image={result.image} landmarks={result.landmarks} expected={isHeld ? result.expected : null} />
      </div>
    </section>
  );
}

/** The straightened photograph with the template over it, and landmarks joined to where they should be. */
function Overlay({ image, landmarks, expected }: Pick<Compared, 'image' | 'landmarks' | 'expected'>) {
  const { support } = useWorkedOut();
  const { shown } = useDrawing();
  const url = useBlobUrl(expected ?? image);
  const unit = support.widthMm / 280;
  return (
    <svg
      className={css.checkOverlay}
      data-testid="check-overlay"
      viewBox={`0 0 ${support.widthMm} ${support.heightMm}`}
      role="img"
      aria-label={w.overlay}
    >
      {url && <image href={url} width={support.widthMm} height={support.heightMm} preserveAspectRatio="none" />}
      <path d={shown.map(({ curve }) => pathData(curve)).join('')} fill="none" stroke="var(--signal)" strokeWidth={unit * 1.3} />
      {landmarks.map(({ id, should, is }) => (
        <g key={id} stroke="var(--grey-12)" strokeWidth={unit * 1.4}>
          <path d={`M${should.join(' ')}L${is.join(' ')}`} />
          <circle cx={is[0]} cy={is[1]} r={unit * 3} fill="var(--white)" />
        </g>
      ))}
    </svg>
  );
}

const SHOWN = 6;

/** Several drawings one after the other: what most of them have otherwise, from five on. */
function Together({ group, onClear }: { group: readonly LoggedResult[]; onClear: () => void }) {
  if (group.length < 2) return null;
  const clear = groupResults(group).filter(({ isClear }) => isClear);
  return (
    <section className={css.checkFound} data-testid="check-group">
      <h3>{w.together(group.length)}</h3>
      {group.length < LEAST_GROUP && <p className="small quiet">{w.tooFew}</p>}
      {group.length >= LEAST_GROUP && clear.length === 0 && <p>{w.alike}</p>}
      <ul>
        {clear.slice(0, SHOWN).map((off) => (
          <li key={`${off.of} ${off.id}`}>{offInWords(off)}</li>
        ))}
      </ul>
      <Button size="small" type="text" onClick={onClear}>
        {w.anew}
      </Button>
    </section>
  );
}
const LEAST_GROUP = 5;
