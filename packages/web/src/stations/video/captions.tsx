import {
  captionsOf,
  captionsSrt,
  captionsVtt,
  chaptersOf,
  chaptersVtt,
  descriptionOf,
  type FilmCue,
  strokesVtt,
  type Timeline,
} from '@viaticum/core/film';
import { Button, Input, Table } from 'antd';
import { clsx } from 'clsx';
import { type CSSProperties, useMemo } from 'react';
import { useSession } from '../../lesson/context.js';
import { CopyKey } from '../../ui/copy-key.js';
import { clockOf, filmWords } from '../../words/film.js';
import { saveText } from './save-text.js';
import { type Filmed, pieces } from './use-film.js';
import css from './video.module.css';

const w = filmWords.captions;
const MOST_CPS = 17;

/** What is said as captions, with how fast they must be read; chapters, and what stands beside the film. */
export function Captions({ film: { lesson, timeline, cut } }: { film: Filmed }) {
  const session = useSession();
  const { cues, found } = useMemo(() => captionsOf(lesson, timeline), [lesson, timeline]);
  const chapters = useMemo(() => chaptersOf(lesson, timeline), [lesson, timeline]);
  const description = useMemo(
    () =>
      pieces({ lesson, timeline, cut })
        .map((own) => descriptionOf(lesson, own))
        .join('\n'),
    [lesson, timeline, cut],
  );
  const all = pieces({ lesson, timeline, cut });
  /** A file of the cut, or one of each of its parts. */
  const save = (what: string, type: string, text: (own: Timeline) => string) => {
    for (const own of all) saveText(`${lesson.title}, ${own.cut.name.toLowerCase()}${what}`, text(own), type);
  };
  return (
    <>
      <section aria-label={w.title}>
        <h2>{w.title}</h2>
        {cut.isShort ? <p>{w.none}</p> : cues.length === 0 ? <p className="quiet">{w.empty}</p> : <p>{w.about(cues.length)}</p>}
        {found.length > 0 && (
          <ul data-testid="too-much-said">
            {found.map(({ take, words }) => (
              <li key={take}>
                <b>{timeline.takes.find(({ id }) => id === take)?.title}</b>: {words}
              </li>
            ))}
          </ul>
        )}
        {cues.length > 0 && (
          <>
            <div className={css.keys}>
              <Button onClick={() => save('.vtt', 'text/vtt', (own) => captionsVtt(lesson, own))}>{w.vtt}</Button>
              <Button onClick={() => save('.srt', 'application/x-subrip', (own) => captionsSrt(lesson, own))}>{w.srt}</Button>
            </div>
            <Table<FilmCue>
              size="small"
              pagination={cues.length > 60 ? { pageSize: 60, showSizeChanger: false } : false}
              rowKey={({ key }) => key}
              dataSource={cues}
              columns={[
                { title: w.columns.at, width: 84, render: (_, { from }) => <span className="numbers">{clockOf(from)}</span> },
                {
                  title: w.columns.text,
                  render: (_, cue, i) => (
                    <>
                      <Input.TextArea
                        key={cue.text}
                        aria-label={w.words(i + 1)}
                        defaultValue={cue.text}
                        rows={cue.text.includes('\n') ? 2 : 1}
                        style={{ resize: 'none' }}
                        maxLength={84}
                        onBlur={({ target }) => {
                          const text = target.value.trim();
                          if (text !== cue.text) session.do('editCaption', { cutId: cut.id, key: cue.key, text });
                        }}
                      />
                      {cue.isEdited && (
                        <Button
                          size="small"
                          type="text"
                          onClick={() => session.do('editCaption', { cutId: cut.id, key: cue.key, text: null })}
                        >
                          {w.asSaid}
                        </Button>
                      )}
                    </>
                  ),
                },
                {
                  title: w.columns.cps,
                  width: 110,
                  render: (_, { cps }) => (
                    <span className={css.cps}>
                      <span
                        className={clsx(css.cpsBar, cps > MOST_CPS + 0.01 && css.over)}
                        style={{ '--share': `${Math.min(100, (100 * cps) / 25)}%` } as CSSProperties}
                      />
                      {Math.round(cps)}
                    </span>
                  ),
                },
              ]}
            />
          </>
        )}
      </section>
      <div className={css.two}>
        <section aria-label={w.chapters}>
          <h2>{w.chapters}</h2>
          <ol className="numbers">
            {chapters.map(({ from, title }) => (
              <li key={from}>
                {clockOf(from)} {title}
              </li>
            ))}
          </ol>
          <div className={css.keys}>
            <Button onClick={() => save(', chapters.vtt', 'text/vtt', (own) => chaptersVtt(lesson, own))}>{w.chaptersVtt}</Button>
            <Button onClick={() => save(', strokes.vtt', 'text/vtt', strokesVtt)}>{w.strokes}</Button>
          </div>
        </section>
        <section aria-label={w.description}>
          <h2>{w.description}</h2>
          <Input.TextArea aria-label={w.description} value={description} readOnly rows={18} />
          <CopyKey text={description} label={w.copy} done={w.copied} />
        </section>
      </div>
    </>
  );
}
