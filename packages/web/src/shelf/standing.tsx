import { MoreOutlined } from '@ant-design/icons';
import { type FoundLesson, type LessonCard, letters } from '@viaticum/contract';
import { planInWords } from '@viaticum/core/plan';
import { sizeInWords } from '@viaticum/core/units';
import { App, Button, Dropdown, Input, Tag } from 'antd';
import { type FormEvent, useState } from 'react';
import { useInView } from 'react-intersection-observer';
import { Link } from 'react-router';
import { finishedUrl, pictureUrl, type useShelf } from '../api/queries.js';
import { Dialog } from '../ui/dialog.js';
import { useSaid } from '../ui/use-said.js';
import { sharingWords } from '../words/sharing.js';
import { shelfWords as w } from '../words/shelf.js';
import { words } from '../words/words.js';
import { Labels } from './labels.js';
import { Share } from './share.js';
import css from './shelf.module.css';

/** From a canvas to its title. */
const UNDER_PX = 20;
type Acts = ReturnType<typeof useShelf>;

/** A lesson as a canvas in true proportion, with what it is and what is done with it. `places`: where what was sought stands in it. */
export function Standing({
  lesson,
  scale,
  acts,
  labels,
  places,
}: {
  lesson: LessonCard;
  scale: number;
  acts: Acts;
  /** Labels of the whole shelf. */
  labels: readonly string[];
  places?: FoundLesson['places'] | undefined;
}) {
  const { id, title, revision, card, role, by } = lesson;
  const size = { width: card.widthMm * scale, height: card.heightMm * scale };
  return (
    <li style={{ width: Math.max(size.width, 148) }}>
      <Link to={`/lesson/${id}`} className={css.standing} aria-label={words.shelf.open(title)}>
        <span className={css.standingCanvas} style={size}>
          <Shown
            first={card.pictureSha256 && pictureUrl(card.pictureSha256, 'thumb')}
            then={card.lastStepId && finishedUrl(id, revision)}
          />
        </span>
        <div className={css.standingWords}>
          <h2>{title}</h2>
          {by && <p className="quiet small">{role === 'reader' ? sharingWords.toRead(by) : sharingWords.by(by)}</p>}
          <span className="quiet small">
            {sizeInWords(card.widthMm, card.heightMm, card.units)}, {words.shelf.steps(card.steps)}
            {card.endMin !== null && <br />}
            {card.endMin !== null &&
              planInWords(
                { endMin: card.endMin, waitMin: card.waitMin, ...(card.never ? { never: card.never } : {}) },
                card.cautious,
              )}
          </span>
          {lesson.labels.length > 0 && (
            <p className={css.tags}>
              {lesson.labels.map((label) => (
                <Tag key={label}>{label}</Tag>
              ))}
            </p>
          )}
          {places?.map(({ kind, name, excerpt }) => (
            <p key={`${kind} ${name}`} className="small">
              {w.kinds[kind]}: <b>{name}</b> {excerpt}
            </p>
          ))}
        </div>
      </Link>
      <More lesson={lesson} acts={acts} labels={labels} topPx={size.height + UNDER_PX} />
    </li>
  );
}

/** Rename, duplicate, share, label, put away, delete: each says what it did, and what takes something away can be undone. */
function More({
  lesson,
  acts,
  labels,
  topPx,
}: {
  lesson: LessonCard;
  acts: Acts;
  labels: readonly string[];
  /** Where its key stands, beside the title. */
  topPx: number;
}) {
  const { id, title, role, isArchived } = lesson;
  const { rename, duplicate, remove, restore, leave, place } = acts;
  const { message } = App.useApp();
  const say = useSaid();
  const [name, setName] = useState<string | null>(null);
  const [opened, open] = useState<'share' | 'labels' | null>(null);
  const failed = (error: Error) => void message.error(error.message);
  const close = () => open(null);
  const removeIt = () =>
    remove.mutate(id, {
      onSuccess: () => say(words.shelf.removed(title), () => restore.mutate(id, { onError: failed })),
      onError: failed,
    });
  const putAway = (away: boolean) =>
    place.mutate(
      { id, isArchived: away, labels: lesson.labels },
      {
        onSuccess: () => {
          if (away)
            say(w.wentAway(title), () => place.mutate({ id, isArchived: false, labels: lesson.labels }, { onError: failed }));
        },
        onError: failed,
      },
    );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const next = name?.trim();
    if (next && next !== title) rename.mutate({ id, title: next }, { onError: failed });
    setName(null);
  };
  const does: Record<string, () => void> = {
    rename: () => setName(title),
    duplicate: () =>
      duplicate.mutate(
        { id, title: words.shelf.copyOf(title).slice(0, letters.name) },
        { onSuccess: (made) => void message.success(words.shelf.duplicated(made.document.title)), onError: failed },
      ),
    share: () => open('share'),
    labels: () => open('labels'),
    away: () => putAway(!isArchived),
    remove: removeIt,
    leave: () => leave.mutate(id, { onSuccess: () => void message.success(sharingWords.left(title)), onError: failed }),
  };
  return (
    <>
      <Dropdown
        trigger={['click']}
        menu={{
          items: [
            ...(role === 'reader' ? [] : [{ key: 'rename', label: words.shelf.rename }]),
            { key: 'duplicate', label: words.shelf.duplicate },
            { key: 'share', label: sharingWords.open },
            {
              key: 'save',
              label: (
                <a href={`/api/lessons/${id}/package`} download>
                  {w.save}
                </a>
              ),
            },
            { key: 'labels', label: w.labels },
            { key: 'away', label: isArchived ? w.takeBack : w.putAway },
            { type: 'divider' },
            role === 'owner'
              ? { key: 'remove', label: words.shelf.remove, danger: true }
              : { key: 'leave', label: sharingWords.leave },
          ],
          onClick: ({ key }) => does[key]?.(),
        }}
      >
        <Button
          className={css.standingMore}
          style={{ top: topPx }}
          type="text"
          size="small"
          icon={<MoreOutlined />}
          aria-label={words.shelf.more(title)}
        />
      </Dropdown>
      {opened === 'share' && <Share id={id} title={title} onClose={close} />}
      {opened === 'labels' && <Labels lesson={lesson} known={labels} place={place.mutateAsync} onClose={close} />}
      {name !== null && (
        <Dialog title={words.shelf.renameTitle} onClose={() => setName(null)}>
          <form onSubmit={submit} className={css.shelfRename}>
            <Input
              autoFocus
              aria-label={words.shelf.renameTitle}
              value={name}
              maxLength={letters.name}
              onChange={(event) => setName(event.target.value)}
            />
            <Button type="primary" htmlType="submit" disabled={name.trim() === ''}>
              {words.shelf.rename}
            </Button>
          </form>
        </Dialog>
      )}
    </>
  );
}

/** The picture that is painted from, at once; over it the finished painting, when it has been painted. That is asked for when it comes into sight. */
function Shown({ first, then }: { first: string | null; then: string | null }) {
  const { ref, inView } = useInView({ triggerOnce: true, rootMargin: '300px', fallbackInView: true });
  const [isThere, setThere] = useState(false);
  return (
    <span ref={ref} className={css.shown}>
      {first && !isThere && <img src={first} alt="" loading="lazy" />}
      {then && inView && <img src={then} alt="" hidden={!isThere} onLoad={() => setThere(true)} />}
    </span>
  );
}
