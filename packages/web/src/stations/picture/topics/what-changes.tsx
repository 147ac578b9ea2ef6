import type { Area, Mix, Step } from '@viaticum/contract';
import type { CommandArgs } from '@viaticum/core/document';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import type { ReactNode } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useBlobUrl } from '../../../lesson/laid.js';
import { Dialog } from '../../../ui/dialog.js';
import { redoneWords as w } from '../../../words/redone.js';
import type { PictureJobs } from '../../../workers/picture-jobs.js';
import css from './what-changes.module.css';

/** Areas that shall take the place of the lesson's, and what would follow from them. */
export type Asked = { areas: Area[]; heirs: Record<string, string[]>; redone: PictureJobs['redo']['answer'] };

/** Before other areas are taken: what stays, changes, comes and goes of things, mixes and steps, and the length before and after. */
export function WhatChanges({ asked, onClose, onTaken }: { asked: Asked; onClose: () => void; onTaken: () => void }) {
  const lesson = useLesson();
  const session = useSession();
  const { areas, heirs, redone } = asked;
  const [before, after] = [useBlobUrl(redone.images.before), useBlobUrl(redone.images.after)];
  const known = new Set(lesson.areas.map((area) => area.id));
  const stays = new Set(areas.map((area) => area.id));
  const next = redone.lesson;
  const all = (): CommandArgs<'takeRedone'> => ({
    areas: next.areas,
    heirs,
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
  const names = (list: readonly (Area | Mix)[]) => list.map((one) => one.name);
  const titles = (list: readonly Step[]) => list.map((one) => one.title);
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
          <Rows said={w.changed} list={redone.mixes.changed.map(({ from, to }) => w.becomes(from.name, to.name))} />
          <Rows said={w.fresh} list={names(redone.mixes.fresh)} />
          <Rows said={w.gone} list={names(redone.mixes.gone)} />
        </Column>
        <Column title={w.steps}>
          <Rows said={w.kept} list={titles(redone.steps.kept)} isQuiet />
          <Rows said={w.changed} list={titles(redone.steps.changed.map(({ to }) => to))} />
          <Rows said={w.fresh} list={titles(redone.steps.fresh)} />
          <Rows said={w.gone} list={titles(redone.steps.gone)} />
        </Column>
        <div className={css.pictures}>
          {(
            [
              [w.before, before, redone.minutes.before],
              [w.after, after, redone.minutes.after],
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
      <p className={css.keys}>
        <Button type="primary" onClick={() => done(session.do('takeRedone', all()))}>
          {w.takeAll}
        </Button>
        <Button onClick={() => done(session.do('replaceAreas', { areas, heirs }))}>{w.onlyAreas}</Button>
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

function Rows({ said, list, isQuiet = false }: { said: string; list: readonly string[]; isQuiet?: boolean }) {
  if (list.length === 0) return null;
  return (
    <dl>
      <dt className="small quiet">
        {said} <span className="numbers">{list.length}</span>
      </dt>
      {list.map((name, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: names may be alike, and none moves
        <dd key={i} className={isQuiet ? 'quiet' : undefined}>
          {name}
        </dd>
      ))}
    </dl>
  );
}
