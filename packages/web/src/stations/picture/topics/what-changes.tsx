import type { Area, Mark, Mix, Step } from '@viaticum/contract';
import type { CommandArgs } from '@viaticum/core/document';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Checkbox } from 'antd';
import { type ReactNode, useMemo, useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useBlobUrl, useJob } from '../../../lesson/laid.js';
import { Dialog } from '../../../ui/dialog.js';
import { redoneWords as w } from '../../../words/redone.js';
import type { PictureJobs } from '../../../workers/picture-jobs.js';
import css from './what-changes.module.css';

/** Areas that shall take the place of the lesson's, and what would follow from them. */
export type Asked = { areas: Area[]; heirs: Record<string, string[]>; lines?: Mark[]; redone: PictureJobs['redo']['answer'] };

/** Before other areas are taken: what stays, changes, comes and goes of things, mixes and steps, and the length before and after. */
export function WhatChanges({ asked, onClose, onTaken }: { asked: Asked; onClose: () => void; onTaken: () => void }) {
  const lesson = useLesson();
  const session = useSession();
  const { areas, heirs, lines, redone } = asked;
  const [before, after] = [useBlobUrl(redone.images.before), useBlobUrl(redone.images.after)];
  const known = new Set(lesson.areas.map((area) => area.id));
  const stays = new Set(areas.map((area) => area.id));
  const [refused, setRefused] = useState<ReadonlySet<string>>(new Set());
  // Without images: a worker is asked for what it needs.
  const [plain] = useState(() => ({ lesson: redone.lesson, mixes: redone.mixes, steps: redone.steps, minutes: redone.minutes }));
  const asking = useMemo(
    () => (refused.size > 0 ? { lesson, redone: plain, refused: [...refused] } : null),
    [lesson, plain, refused],
  );
  const other = useJob('refuse', asking, 0);
  const answer = asking && other.answer?.refused.join() === asking.refused.join() ? other.answer : null;
  const isWaiting = asking !== null && !answer;
  const otherUrl = useBlobUrl(answer?.image ?? null);
  const next = answer?.lesson ?? redone.lesson;
  const choose = (id: string, isTaken: boolean) => {
    const left = new Set(refused);
    if (isTaken) left.delete(id);
    else left.add(id);
    setRefused(left);
  };
  const rows = { refused, onChoose: choose };
  const all = (): CommandArgs<'takeRedone'> => ({
    areas: next.areas,
    heirs,
    ...(lines ? { lines: next.marks.filter((mark) => mark.along) } : {}),
    subjectAreaId: next.subjectAreaId ?? null,
    tubes: next.tubes,
    mixes: next.mixes,
    draft: {
      stages: next.stages,
      steps: next.steps,
      passages: next.passages,
      leftOut: next.leftOut,
      ...(next.planning.cutsBefore ? { cutsBefore: next.planning.cutsBefore } : {}),
    },
  });
  const done = (isDone: unknown) => isDone && onTaken();
  const names = (list: readonly (Area | Mix)[]): Row[] => list.map(({ id, name }) => ({ id, name }));
  const titles = (list: readonly Step[]): Row[] => list.map(({ id, title }) => ({ id, name: title }));
  return (
    <Dialog title={w.title} width={980} onClose={onClose}>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it is scrolled by keys, too */}
      <section className={css.columns} tabIndex={0} aria-label={w.title}>
        <Column title={w.things}>
          <Rows said={w.kept} list={names(areas.filter((area) => known.has(area.id)))} isQuiet />
          <Rows said={w.fresh} list={names(areas.filter((area) => !known.has(area.id)))} />
          <Rows said={w.gone} list={names(lesson.areas.filter((area) => !stays.has(area.id)))} />
        </Column>
        <Column title={w.mixes}>
          <Rows said={w.kept} list={names(redone.mixes.kept)} isQuiet />
          <Rows
            said={w.changed}
            list={redone.mixes.changed.map(({ from, to }) => ({ id: from.id, name: w.becomes(from.name, to.name) }))}
            choice={rows}
          />
          <Rows said={w.fresh} list={names(redone.mixes.fresh)} choice={rows} />
          <Rows said={w.gone} list={names(redone.mixes.gone)} choice={rows} />
        </Column>
        <Column title={w.steps}>
          <Rows said={w.kept} list={titles(redone.steps.kept)} isQuiet />
          <Rows said={w.changed} list={titles(redone.steps.changed.map(({ to }) => to))} choice={rows} />
          <Rows said={w.fresh} list={titles(redone.steps.fresh)} choice={rows} />
          <Rows said={w.gone} list={titles(redone.steps.gone)} choice={rows} />
        </Column>
        <div className={css.pictures}>
          {(
            [
              [w.before, before, redone.minutes.before],
              [w.after, otherUrl ?? after, answer?.minutes ?? redone.minutes.after],
            ] as const
          ).map(([said, url, minutes]) => (
            <figure key={said}>
              {url && <img src={url} alt="" />}
              <figcaption>
                {said} <b className="numbers">{minutesInWords(minutes)}</b>
              </figcaption>
            </figure>
          ))}
        </div>
      </section>
      <p className="quiet small">{w.refuse}</p>
      {other.fault && <p className="signal">{other.fault}</p>}
      <p className={css.keys}>
        <Button type="primary" disabled={isWaiting} onClick={() => done(session.do('takeRedone', all()))}>
          {w.takeAll(refused.size)}
        </Button>
        <Button onClick={() => done(session.do('replaceAreas', { areas, heirs, ...(lines ? { lines } : {}) }))}>
          {w.onlyAreas}
        </Button>
        <Button onClick={onClose}>{w.notNow}</Button>
      </p>
    </Dialog>
  );
}

const Column = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className={css.column}>
    <h3>{title}</h3>
    {children}
  </section>
);

type Row = { id: string; name: string };
type Choice = { refused: ReadonlySet<string>; onChoose: (id: string, isTaken: boolean) => void };
/** Names under what happens to them; with `choice` each can be refused. */
function Rows({
  said,
  list,
  choice,
  isQuiet = false,
}: {
  said: string;
  list: readonly Row[];
  choice?: Choice;
  isQuiet?: boolean;
}) {
  if (list.length === 0) return null;
  return (
    <dl>
      <dt className="small quiet">
        {said} <span className="numbers">{list.length}</span>
      </dt>
      {list.map(({ id, name }) => (
        <dd key={id} className={isQuiet ? 'quiet' : undefined}>
          {choice ? (
            <Checkbox
              aria-label={w.take(name)}
              checked={!choice.refused.has(id)}
              onChange={(event) => choice.onChoose(id, event.target.checked)}
            >
              {name}
            </Checkbox>
          ) : (
            name
          )}
        </dd>
      ))}
    </dl>
  );
}
