import { MoreOutlined } from '@ant-design/icons';
import { useInfiniteQuery } from '@tanstack/react-query';
import { type LessonCard, letters } from '@viaticum/contract';
import { planInWords } from '@viaticum/core/plan';
import { sizeInWords } from '@viaticum/core/units';
import { App, Button, Dropdown, Empty, Input } from 'antd';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { finishedUrl, lessonsQuery, pictureUrl, useShelf, useSignOut } from '../api/queries.js';
import { NewLesson } from '../begin/begin.js';
import { Dialog } from '../ui/dialog.js';
import { LinkKey } from '../ui/link-key.js';
import { useSaid } from '../ui/use-said.js';
import { sharingWords } from '../words/sharing.js';
import { words } from '../words/words.js';
import { Bin } from './bin.js';
import { Share } from './share.js';
import css from './shelf.module.css';

/** Pixels per mm: the tallest canvas of the shelf stands at most this high. */
const TALLEST_PX = 330;
const MOST_PX_PER_MM = 0.62;

/** The lessons as canvases in true proportion, small against large, standing on a shelf. */
export default function Shelf() {
  const { data: lessons, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery(lessonsQuery);
  const [isNew, setNew] = useState(false);
  const [isLooking, setLooking] = useState(false);
  const signOut = useSignOut();
  // Of the whole shelf: what is said about a lesson is said after it has gone from it, too.
  const acts = useShelf();
  const navigate = useNavigate();
  const tallest = Math.max(1, ...(lessons ?? []).map(({ card }) => card.heightMm));
  const scale = Math.min(MOST_PX_PER_MM, TALLEST_PX / tallest);
  return (
    <main className={css.shelf}>
      <header>
        <h1>{words.shelf.title}</h1>
        <Button type="primary" onClick={() => setNew(true)}>
          {words.shelf.fresh}
        </Button>
        <Button type="text" onClick={() => setLooking(true)}>
          {words.shelf.bin}
        </Button>
        <LinkKey type="text" to="/account">
          {words.shelf.account}
        </LinkKey>
        <Button type="text" onClick={() => signOut.mutate(undefined, { onSuccess: () => navigate('/sign-in') })}>
          {words.shelf.signOut}
        </Button>
      </header>
      {error && <p role="alert">{error.message}</p>}
      {lessons?.length === 0 && (
        <Empty className={css.shelfEmpty} image={false} description={words.shelf.empty}>
          <Button type="primary" onClick={() => setNew(true)}>
            {words.shelf.fresh}
          </Button>
        </Empty>
      )}
      <ul className={css.shelfBoard}>
        {lessons?.map((lesson) => (
          <Standing key={lesson.id} lesson={lesson} scale={scale} acts={acts} />
        ))}
      </ul>
      {hasNextPage && (
        <Button loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          {words.shelf.older}
        </Button>
      )}
      {isLooking && <Bin restore={acts.restore.mutateAsync} onClose={() => setLooking(false)} />}
      {isNew && <NewLesson onClose={() => setNew(false)} />}
    </main>
  );
}

type Acts = ReturnType<typeof useShelf>;

function Standing({ lesson, scale, acts }: { lesson: LessonCard; scale: number; acts: Acts }) {
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
          {by && <span className="quiet small">{role === 'reader' ? sharingWords.toRead(by) : sharingWords.by(by)}</span>}
          <span className="quiet small">
            {sizeInWords(card.widthMm, card.heightMm, card.units)}, {words.shelf.steps(card.steps)}
            {card.endMin !== null && <br />}
            {card.endMin !== null &&
              planInWords(
                { endMin: card.endMin, waitMin: card.waitMin, ...(card.never ? { never: card.never } : {}) },
                card.cautious,
              )}
          </span>
        </div>
      </Link>
      <More lesson={lesson} acts={acts} />
    </li>
  );
}

/** Rename, duplicate, delete: each says what it did, and deleting can be undone. */
function More({ lesson: { id, title, role }, acts }: { lesson: LessonCard; acts: Acts }) {
  const { rename, duplicate, remove, restore, leave } = acts;
  const { message } = App.useApp();
  const say = useSaid();
  const [name, setName] = useState<string | null>(null);
  const [isSharing, setSharing] = useState(false);
  const failed = (error: Error) => void message.error(error.message);
  const removeIt = () =>
    remove.mutate(id, {
      onSuccess: () => say(words.shelf.removed(title), () => restore.mutate(id, { onError: failed })),
      onError: failed,
    });
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
    remove: removeIt,
    share: () => setSharing(true),
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
          type="text"
          size="small"
          icon={<MoreOutlined />}
          aria-label={words.shelf.more(title)}
        />
      </Dropdown>
      {isSharing && <Share id={id} title={title} onClose={() => setSharing(false)} />}
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

/** The picture that is painted from, at once; over it the finished painting, when it has been painted. */
function Shown({ first, then }: { first: string | null; then: string | null }) {
  const [isThere, setThere] = useState(false);
  return (
    <>
      {first && !isThere && <img src={first} alt="" loading="lazy" />}
      {then && <img src={then} alt="" hidden={!isThere} onLoad={() => setThere(true)} />}
    </>
  );
}
