import type { Lesson } from '@viaticum/contract';
import {
  type CutFinding,
  captionsOf,
  cardsOf,
  chaptersOf,
  cutFindings,
  edlOf,
  jumpsOf,
  meantLength,
  partsOf,
  pieceRules,
  pressInWords,
  reachOfPiece,
  type Shot,
  type Take,
  type Timeline,
  timelineOf,
} from '@viaticum/core/film';
import { Button, Input, Popover, Segmented, Slider, Table } from 'antd';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { useReadStages } from '../../read/read-stages.js';
import { Fold } from '../../ui/fold.js';
import { NumberField } from '../../ui/number-field.js';
import { clockOf, filmWords, readClock } from '../../words/film.js';
import { Animatic } from './animatic.js';
import { saveText } from './shoot.js';
import { Track } from './track.js';
import { type Filmed, pieces, withFilm } from './use-film.js';
import css from './video.module.css';

const w = filmWords.length;
type Trial = { pieceId: string; sec: number };

/** How long the film shall be, how fast each piece runs for it, and how it will look. */
export function LengthTopic({ film }: { film: Filmed }) {
  const { lesson, cut, noted, setCutId } = film;
  const session = useSession();
  const [frame, setFrame] = useState(0);
  const [chosen, setChosen] = useState<string | null>(null);
  // What is dragged is tried out: the rest gives way at once, and it is kept when it is let go.
  const [trial, setTrial] = useState<Trial | null>(null);
  const timeline = useMemo(
    () => (trial ? timelineOf(tried(lesson, film.cuts, cut.id, trial), cut.id, noted) : film.timeline),
    [trial, lesson, film.cuts, film.timeline, cut.id, noted],
  );
  const shown = { ...film, timeline };
  const cards = useMemo(() => cardsOf(lesson, timeline), [lesson, timeline]);
  const { cues } = useMemo(() => captionsOf(lesson, timeline), [lesson, timeline]);
  const parts = useMemo(() => (cut.partSec ? partsOf(lesson, timeline, cut.partSec) : []), [cut.partSec, lesson, timeline]);
  const shot = timeline.shots.find(({ piece }) => piece && piece.id === chosen);
  const hold = (sec: number) => {
    setTrial(null);
    if (shot?.piece) session.do('dragPieces', { cutId: cut.id, pieces: [{ pieceId: shot.piece.id, sec: reached(shot, sec) }] });
  };
  return (
    <>
      <section aria-label={w.title}>
        <Wish film={shown} />
        <Findings film={shown} />
        <Track
          timeline={timeline}
          cards={cards}
          cues={cues}
          parts={parts}
          frame={frame}
          chosen={chosen}
          onChoose={(id, at) => {
            setChosen(id);
            setFrame(at);
          }}
          onDrag={(seconds, isDone) => {
            if (!shot?.piece) return;
            if (isDone) hold(seconds);
            else setTrial({ pieceId: shot.piece.id, sec: reached(shot, seconds) });
          }}
        />
        <p className="small quiet">{w.trackHelp}</p>
      </section>
      <div className={css.two}>
        <div className={css.beside}>
          {shot?.piece ? (
            <Chosen
              film={shown}
              shot={shot}
              onTry={(sec) => setTrial({ pieceId: shot.piece?.id as string, sec: reached(shot, sec) })}
              onHold={hold}
            />
          ) : (
            <p className={css.chosen}>{w.choose}</p>
          )}
          <p className="small">
            {w.press}: {pressInWords(timeline)}.
          </p>
        </div>
        <Animatic film={shown} frame={frame} onFrame={setFrame} />
      </div>
      <Jumps film={film} />
      <Parts film={film} parts={parts} />
      <Left film={film} />
      <div className={css.keys}>
        <Button
          onClick={() => {
            for (const own of pieces({ lesson, timeline, cut }))
              for (const [i, text] of edlOf(lesson, own).entries())
                saveText(`${lesson.title}, ${own.cut.name}${i > 0 ? ` ${i + 1}` : ''}.edl`, text, 'text/plain');
          }}
        >
          {w.edl}
        </Button>
        <NewCut onMade={setCutId} />
        <EditCut film={film} />
      </div>
      <Fold head={w.table}>
        <ShotTable timeline={timeline} lesson={lesson} />
      </Fold>
    </>
  );
}

const reached = ({ piece }: Shot, sec: number): number => {
  const [least, most] = piece ? reachOfPiece(piece) : [0, sec];
  return Math.round(Math.max(least, Math.min(most, sec)) * 10) / 10;
};

/** The lesson with a piece held to a length, without changing it. */
function tried(lesson: Lesson, cuts: Filmed['cuts'], cutId: string, { pieceId, sec }: Trial): Lesson {
  const next = cuts.map((one) =>
    one.id === cutId
      ? { ...one, fixed: [...(one.fixed ?? []).filter((fixed) => fixed.pieceId !== pieceId), { pieceId, sec }] }
      : one,
  );
  return withFilm(lesson, { ...lesson.film, cuts: next });
}

const LONG = 2.4;
/** The wished length, and between what it can lie. */
function Wish({ film: { cut, timeline, takes } }: { film: Filmed }) {
  const session = useSession();
  const { allocation, wishS, frames, fps } = timeline;
  const set = (lengthSec: number) => session.do('editCut', { id: cut.id, cut: { lengthSec } });
  const [drawn, setDrawn] = useState<number | null>(null);
  const { leastS, mostS } = allocation;
  // Longer than twice its least few films are; the field takes any length.
  const most = Math.ceil(Math.max(wishS, Math.min(mostS, leastS * LONG)));
  const spoken = timeline.shots.reduce((sum, { piece, from, to }) => sum + (piece?.kind === 'speech' ? to - from : 0), 0) / fps;
  return (
    <>
      <h2>{w.title}</h2>
      <div className={css.wish}>
        <Slider
          ariaLabelForHandle={w.wanted}
          min={Math.max(5, Math.floor(leastS))}
          max={most}
          step={5}
          value={drawn ?? Math.round(wishS)}
          tooltip={{ formatter: (value) => clockOf(value ?? 0) }}
          onChange={(value: number) => setDrawn(value)}
          onChangeComplete={(value: number) => {
            setDrawn(null);
            set(value);
          }}
        />
        <ClockField label={w.wanted} seconds={wishS} onSeconds={set} />
        {cut.lengthSec !== undefined && (
          <Button size="small" onClick={() => session.do('editCut', { id: cut.id, cut: {}, clear: ['lengthSec'] })}>
            {w.back}
          </Button>
        )}
      </div>
      <p className="numbers">
        {cut.isShort
          ? w.shortShows(clockOf(frames / fps), timeline.takes.length, takes.filter(({ isLeftOut }) => !isLeftOut).length)
          : w.shows(clockOf(spoken), clockOf(frames / fps))}
        ; {w.between(clockOf(leastS), clockOf(mostS))}
      </p>
    </>
  );
}

/** A length as "12:30" (or seconds, or "12 min"). */
function ClockField({ label, seconds, onSeconds }: { label: string; seconds: number; onSeconds: (seconds: number) => boolean }) {
  const [turn, setTurn] = useState(0);
  return (
    <Input
      key={`${seconds} ${turn}`}
      aria-label={label}
      defaultValue={clockOf(seconds)}
      style={{ width: 92 }}
      onPressEnter={(event) => (event.target as HTMLInputElement).blur()}
      onBlur={({ target }) => {
        const next = readClock(target.value);
        if (next !== null && Math.abs(next - seconds) > 0.5) onSeconds(next);
        setTurn(turn + 1);
      }}
    />
  );
}

function Findings({ film: { cut, timeline, takes } }: { film: Filmed }) {
  const session = useSession();
  const found = cutFindings(timeline);
  if (found.length === 0) return null;
  const mend = (kind: CutFinding['mends'][number]['kind'], seconds = 0) => {
    if (kind === 'length') session.do('editCut', { id: cut.id, cut: { lengthSec: seconds } });
    else if (kind === 'parts')
      session.do('editCut', { id: cut.id, cut: { partSec: Math.max(60, seconds) }, clear: ['lengthSec'] });
    else for (const { id, say } of takes) if (say) session.do('setTake', { takeId: id, edit: { voice: 'after' } });
  };
  return (
    <ul data-testid="cut-findings">
      {found.map(({ code, words, mends, pieceIds = [] }) => (
        <li key={code} className={code === 'too-short' ? 'signal' : ''}>
          {words}{' '}
          {mends.map(({ kind, words: says, seconds }) => (
            <Button key={says} size="small" onClick={() => mend(kind, seconds)}>
              {says}
            </Button>
          ))}
          {pieceIds.length > 0 && (
            <Button
              size="small"
              onClick={() => {
                const shots = timeline.shots.filter(({ piece }) => piece && pieceIds.includes(piece.id));
                const pieces = shots.map((shot) => ({ pieceId: shot.piece?.id as string, sec: meantLength(shot) }));
                session.do('dragPieces', { cutId: cut.id, pieces });
              }}
            >
              {w.meant}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** The piece that is looked at: how it runs, and held to a length. */
function Chosen({
  film,
  shot,
  onTry,
  onHold,
}: {
  film: Filmed;
  shot: Shot;
  onTry: (sec: number) => void;
  onHold: (sec: number) => void;
}) {
  const { cut, timeline } = film;
  const session = useSession();
  const { piece } = shot;
  if (!piece) return null;
  const take = timeline.takes.find(({ id }) => id === shot.takeId) as Take;
  const [least, most] = reachOfPiece(piece);
  const seconds = (shot.to - shot.from) / timeline.fps;
  const isHeld = cut.fixed?.some(({ pieceId }) => pieceId === piece.id) ?? false;
  return (
    <div className={css.chosen} data-testid="piece">
      <b>
        {take.slate} {take.title}: {pieceRules[piece.kind].name}
      </b>
      <span className="numbers">
        {w.shown} {seconds.toFixed(1)} s, {w.filmed(clockOf(piece.rawS))}, {shot.isJump ? w.jumped : w.speed(shot.speed)}
        {isHeld && `, ${w.held}`}
      </span>
      {most - least < 0.2 && <span className="small quiet">{w.asItIs}</span>}
      <Slider
        ariaLabelForHandle={w.shown}
        min={Math.round(least * 10) / 10}
        max={Math.round(most * 10) / 10}
        step={0.1}
        value={Math.round(seconds * 10) / 10}
        style={most - least < 0.2 ? { display: 'none' } : undefined}
        onChange={(value: number) => onTry(value)}
        onChangeComplete={(value: number) => onHold(value)}
      />
      {most - least >= 0.2 && <span className="small quiet">{w.reach(`${least.toFixed(1)} s`, `${most.toFixed(1)} s`)}</span>}
      <span className={css.keys}>
        {isHeld && (
          <Button
            size="small"
            onClick={() => session.do('dragPieces', { cutId: cut.id, pieces: [{ pieceId: piece.id, sec: null }] })}
          >
            {w.free}
          </Button>
        )}
        <Button size="small" onClick={() => session.do('leaveOutTake', { cutId: cut.id, takeId: take.id, isOut: true })}>
          {w.leaveOut}
        </Button>
      </span>
    </div>
  );
}

const JUMPS_SHOWN = 4;
function Jumps({ film: { cut, timeline } }: { film: Filmed }) {
  const session = useSession();
  const jumps = jumpsOf(timeline).slice(0, JUMPS_SHOWN);
  if (jumps.length === 0) return null;
  return (
    <section aria-label={w.jumps}>
      <h3>{w.jumps}</h3>
      <ul>
        {jumps.map(({ pieceId, words }) => (
          <li key={pieceId}>
            {words}{' '}
            <Button size="small" onClick={() => session.do('dragPieces', { cutId: cut.id, pieces: [{ pieceId, sec: 3 }] })}>
              {w.jump}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Parts({ film: { lesson, cut, timeline }, parts }: { film: Filmed; parts: ReturnType<typeof partsOf> }) {
  const session = useSession();
  const wanted = useMemo(() => parts.flatMap(({ recapStepId }) => recapStepId ?? []), [parts]);
  const pictures = useReadStages(lesson, wanted);
  if (cut.isShort) return null;
  const titleOf = (stepId: string | null) => lesson.steps.find(({ id }) => id === stepId)?.title ?? '';
  return (
    <section aria-label={w.parts.title} data-testid="parts">
      <h3>{w.parts.title}</h3>
      <p>{w.parts.about}</p>
      <div className={css.asked}>
        <span>
          {w.parts.wanted}
          <NumberField
            label={w.parts.wanted}
            value={cut.partSec === undefined ? undefined : Math.round(cut.partSec / 6) / 10}
            placeholder={w.parts.none}
            onValue={(min) => session.do('editCut', { id: cut.id, cut: { partSec: min * 60 } })}
            onClear={() => session.do('editCut', { id: cut.id, cut: {}, clear: ['partSec'] })}
          />
        </span>
      </div>
      {parts.length > 1 && (
        <ul>
          {parts.map((part) => (
            <li key={part.number} className={css.part}>
              {part.recapStepId && pictures.has(part.recapStepId) && (
                <img className={css.thumb} src={pictures.get(part.recapStepId)} alt="" />
              )}
              <span>
                <b>{w.parts.part(part.number, part.of, clockOf((part.to - part.from) / timeline.fps))}</b>
                {part.recapStepId && `, ${w.parts.begins(titleOf(part.recapStepId))}`}
                <br />
                {part.transferStepId && <>{w.parts.transfer(titleOf(part.transferStepId))}. </>}
                <span className="small">
                  {w.parts.needs}: {[...part.brushes, ...part.mixes].join('; ')}.{part.next && ` ${w.parts.next(part.next)}.`}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Takes that this cut could show and does not. */
function Left({ film: { cut, timeline } }: { film: Filmed }) {
  const session = useSession();
  const out = new Set(cut.leaveOut);
  const { left } = timeline;
  if (left.length === 0) return null;
  return (
    <Fold head={w.left(left.length)}>
      <ul>
        {left.map(({ id, slate, title }) => (
          <li key={id}>
            {slate} {title}{' '}
            {out.has(id) && (
              <Button size="small" onClick={() => session.do('leaveOutTake', { cutId: cut.id, takeId: id, isOut: false })}>
                {w.bringBack}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Fold>
  );
}

function NewCut({ onMade }: { onMade: (id: string) => void }) {
  const session = useSession();
  const [isShort, setShort] = useState(false);
  const add = () => {
    const id = nanoid(8);
    if (session.do('addCut', { cut: { id, name: w.newName, ...(isShort && { isShort: true as const, lengthSec: 120 }) } }))
      onMade(id);
  };
  return (
    <Popover
      trigger="click"
      content={
        <div className={css.fields}>
          <Segmented
            value={isShort ? 'short' : 'whole'}
            options={[
              { value: 'whole', label: w.kinds.whole },
              { value: 'short', label: w.kinds.short },
            ]}
            onChange={(kind) => setShort(kind === 'short')}
          />
          <Button onClick={add}>{w.add}</Button>
        </div>
      }
    >
      <Button>{w.add}</Button>
    </Popover>
  );
}

function EditCut({ film: { cut, cuts } }: { film: Filmed }) {
  const session = useSession();
  return (
    <>
      <Input
        aria-label={w.rename}
        key={`${cut.id} ${cut.name}`}
        defaultValue={cut.name}
        style={{ width: 150 }}
        onPressEnter={(event) => (event.target as HTMLInputElement).blur()}
        onBlur={({ target }) => {
          if (target.value.trim() !== cut.name) session.do('editCut', { id: cut.id, cut: { name: target.value } });
        }}
      />
      {cuts.length > 1 && <Button onClick={() => session.do('removeCut', { id: cut.id })}>{w.remove}</Button>}
    </>
  );
}

/** The film as a table, for who hears it rather than sees it. */
function ShotTable({ timeline, lesson }: { timeline: Timeline; lesson: Lesson }) {
  const chapters = chaptersOf(lesson, timeline);
  return (
    <Table
      size="small"
      pagination={false}
      rowKey={({ from }) => from}
      dataSource={timeline.shots.map((shot) => ({ shot, from: shot.from }))}
      columns={[
        { title: w.columns.at, render: (_, { shot }) => clockOf(shot.from / timeline.fps) },
        {
          title: w.columns.take,
          render: (_, { shot }) =>
            `${shot.slate} ${shot.kind === 'dry' ? filmWords.cards.kinds.dry : shot.piece ? pieceRules[shot.piece.kind].name : ''}, ${chapters.find(({ from, to }) => from <= shot.from / timeline.fps && to > shot.from / timeline.fps)?.title ?? ''}`,
        },
        {
          title: w.columns.shown,
          align: 'right',
          render: (_, { shot }) => `${((shot.to - shot.from) / timeline.fps).toFixed(1)} s`,
        },
        {
          title: w.columns.speed,
          align: 'right',
          render: (_, { shot }) => (shot.speed < 1.05 ? '' : `${shot.speed.toFixed(1)}×`),
        },
      ]}
    />
  );
}
