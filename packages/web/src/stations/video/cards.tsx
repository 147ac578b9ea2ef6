import { type CardCorner, cardCorners } from '@viaticum/contract';
import { type Card, cardsOf } from '@viaticum/core/film';
import { Button, Checkbox, Input, Select, Table } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSession, useSnapshot } from '../../lesson/context.js';
import { saveFile } from '../../ui/save-file.js';
import { clockOf, filmWords } from '../../words/film.js';
import { drawCardAlone } from './film-picture.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.cards;

/** The cards of the cut, each as it looks, with its words and its place. */
export function Cards({ film: { id, lesson, timeline, cut } }: { film: Filmed }) {
  const session = useSession();
  const cards = useMemo(() => cardsOf(lesson, timeline), [lesson, timeline]);
  const edit = ({ key }: Card, more: { text?: string; corner?: CardCorner; hidden?: true }, clear?: 'hidden' | 'text') => {
    const { key: _, ...before } = cut.cards?.find((one) => one.key === key) ?? { key };
    const next = { ...before, ...more };
    if (clear) delete next[clear];
    session.do('editCard', { cutId: cut.id, key, card: next });
  };
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <Save id={id} cutId={cut.id} name={`${lesson.title}, cards.zip`} />
      <Table<Card>
        size="small"
        pagination={{ pageSize: 12, showSizeChanger: false, hideOnSinglePage: true }}
        rowKey={({ key }) => key}
        dataSource={cards}
        data-testid="cards"
        columns={[
          {
            title: w.columns.at,
            width: 70,
            render: (_, { from }) => <span className="numbers">{clockOf(from / timeline.fps)}</span>,
          },
          { title: '', width: 256, render: (_, card) => <Face card={card} /> },
          {
            title: w.columns.text,
            render: (_, card) => (
              <>
                <Input
                  key={card.title}
                  aria-label={w.textOf(card.title)}
                  defaultValue={card.title}
                  maxLength={120}
                  onPressEnter={(event) => (event.target as HTMLInputElement).blur()}
                  onBlur={({ target }) => {
                    const text = target.value.trim();
                    if (text !== card.title) edit(card, text ? { text } : {}, text ? undefined : 'text');
                  }}
                />
                <span className="small quiet">{card.lines.join('; ')}</span>
              </>
            ),
          },
          {
            title: w.columns.corner,
            width: 170,
            render: (_, card) => (
              <Select<CardCorner>
                size="small"
                aria-label={w.cornerOf(card.title)}
                value={card.corner}
                style={{ width: 160 }}
                options={cardCorners.map((value) => ({ value, label: w.corners[value] }))}
                onChange={(corner) => edit(card, { corner })}
              />
            ),
          },
          {
            title: w.columns.shown,
            width: 70,
            render: (_, card) => (
              <Checkbox
                aria-label={w.shownOf(card.title)}
                checked={!card.isHidden}
                onChange={({ target }) => (target.checked ? edit(card, {}, 'hidden') : edit(card, { hidden: true }))}
              />
            ),
          },
        ]}
      />
    </section>
  );
}

/** A card as it is read: its panel alone, on middle grey. */
function Face({ card }: { card: Card }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const own = canvas.current;
    const ctx = own?.getContext('2d');
    if (own && ctx) drawCardAlone(ctx, own, card);
  }, [card]);
  return <canvas ref={canvas} className={css.cardFace} aria-hidden />;
}

function Save({ id, cutId, name }: { id: string; cutId: string; name: string }) {
  // Drawn from what is stored.
  const isReady = useSnapshot().save.kind === 'saved';
  const [isSaving, setSaving] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const save = async () => {
    setSaving(true);
    setFault(null);
    try {
      const response = await fetch(`/api/lessons/${id}/cards`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ cutId }),
      });
      if (!response.ok) throw new Error(((await response.json()) as { message: string }).message);
      saveFile(name, await response.blob());
    } catch (error) {
      setFault((error as Error).message);
    } finally {
      setSaving(false);
    }
  };
  return (
    <p>
      <Button loading={isSaving} disabled={!isReady} onClick={() => void save()}>
        {isSaving ? w.saving : w.save}
      </Button>{' '}
      {fault && (
        <span className="signal" role="alert">
          {fault}
        </span>
      )}
    </p>
  );
}
