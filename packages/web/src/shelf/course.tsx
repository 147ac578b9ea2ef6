import { HolderOutlined } from '@ant-design/icons';
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Course, type CourseKit, type CourseLine, type LessonCard, type SaveCourse, shelfNames } from '@viaticum/contract';
import { courseLineInWords, moneyInWords } from '@viaticum/core/kit';
import { planInWords } from '@viaticum/core/plan';
import { capital } from '@viaticum/core/units';
import { App, Button, Popconfirm, Select, Table } from 'antd';
import { Link, useNavigate, useParams } from 'react-router';
import { call } from '../api/http.js';
import { coursesQuery, lessonsQuery, pictureUrl } from '../api/queries.js';
import { CommitInput } from '../ui/commit-input.js';
import { LinkKey } from '../ui/link-key.js';
import { sortingWords } from '../ui/sorting.js';
import { courseWords as w } from '../words/shelf.js';
import { words } from '../words/words.js';
import css from './course.module.css';

/** A course: its lessons in their order, how long they take, and what they need together. */
export default function CoursePage() {
  const { id = '' } = useParams();
  const { data: courses, error } = useQuery(coursesQuery);
  const { data: all } = useQuery(lessonsQuery);
  const course = courses?.find((one) => one.id === id);
  if (error) return <p role="alert">{error.message}</p>;
  if (!courses || !all) return null;
  if (!course)
    return (
      <main className={css.course}>
        <p role="alert">{w.gone}</p>
        <LinkKey to="/">{w.shelf}</LinkKey>
      </main>
    );
  const byId = new Map(all.map((lesson) => [lesson.id, lesson]));
  const lessons = course.lessonIds.flatMap((one) => byId.get(one) ?? []);
  return <Opened course={course} lessons={lessons} all={all} />;
}

function Opened({ course, lessons, all }: { course: Course; lessons: LessonCard[]; all: LessonCard[] }) {
  const { save, remove } = useCourseActs(course);
  const ids = lessons.map(({ id }) => id);
  const order = (lessonIds: string[]) => save.mutate({ title: course.title, lessonIds });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onEnd = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) order(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  const titleOf = (id: string) => lessons.find((one) => one.id === id)?.title ?? '';
  const rest = all.filter((one) => !ids.includes(one.id) && !one.isArchived);
  const minutes = lessons.reduce((sum, { card }) => sum + (card.endMin ?? 0), 0);
  return (
    <main className={css.course}>
      <header>
        <LinkKey type="text" to="/">
          {w.shelf}
        </LinkKey>
        <h1 className="visually-hidden">{course.title}</h1>
        <CommitInput
          isBare
          className={css.title}
          value={course.title}
          label={w.name}
          whileTyping={false}
          onCommit={(title) => {
            if (title.trim() === '') return false;
            save.mutate({ title: title.trim(), lessonIds: ids });
            return true;
          }}
        />
        <Popconfirm title={w.removeAsk(course.title)} okText={w.remove} onConfirm={() => remove.mutate()}>
          <Button type="text">{w.remove}</Button>
        </Popconfirm>
      </header>
      {lessons.length === 0 ? <p className="quiet">{w.empty}</p> : <p>{w.total(lessons.length, minutes)}</p>}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onEnd}
        accessibility={sortingWords(ids, titleOf)}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className={css.lessons}>
            {lessons.map((lesson, at) => (
              <Row key={lesson.id} lesson={lesson} at={at} onOut={() => order(ids.filter((one) => one !== lesson.id))} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {rest.length > 0 && (
        <Select
          aria-label={w.add}
          placeholder={w.add}
          className={css.add}
          value={null}
          showSearch={{ optionFilterProp: 'label' }}
          options={rest.map(({ id, title }) => ({ value: id, label: title }))}
          onChange={(id: string | null) => id && order([...ids, id])}
        />
      )}
      {lessons.length > 0 && <Kit course={course} count={lessons.length} />}
    </main>
  );
}

function useCourseActs({ id }: Course) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const failed = (fault: Error) => void message.error(fault.message);
  const save = useMutation({
    mutationFn: (course: SaveCourse) => call<Course>('PUT', `/api/courses/${id}`, course),
    // It stands in its place at once; what the server says comes after.
    onMutate: (course) =>
      client.setQueryData(coursesQuery.queryKey, (was) => was?.map((one) => (one.id === id ? { ...one, ...course } : one))),
    onError: failed,
    onSettled: () => client.invalidateQueries({ queryKey: ['courses'] }),
  });
  const remove = useMutation({
    mutationFn: () => call('DELETE', `/api/courses/${id}`),
    onSuccess: async () => {
      navigate('/');
      await client.invalidateQueries({ queryKey: ['courses'] });
    },
    onError: failed,
  });
  return { save, remove };
}

function Row({ lesson, at, onOut }: { lesson: LessonCard; at: number; onOut: () => void }) {
  const { id, title, card } = lesson;
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return (
    <li ref={setNodeRef} style={{ transform: CSS.Translate.toString(transform), transition }}>
      <Button type="text" icon={<HolderOutlined />} aria-label={w.drag(title)} {...attributes} {...listeners} />
      <b className="numbers">{at + 1}</b>
      <span className={css.thumb}>
        {card.pictureSha256 && <img src={pictureUrl(card.pictureSha256, 'thumb')} alt="" loading="lazy" />}
      </span>
      <span className={css.what}>
        <Link to={`/lesson/${id}`}>{title}</Link>
        <span className="quiet small">
          {words.shelf.steps(card.steps)}
          {card.endMin !== null &&
            `, ${planInWords({ endMin: card.endMin, waitMin: card.waitMin, ...(card.never ? { never: card.never } : {}) }, card.cautious)}`}
        </span>
      </span>
      <Button type="text" aria-label={w.outOf(title)} onClick={onOut}>
        {w.out}
      </Button>
    </li>
  );
}

function Kit({ course, count }: { course: Course; count: number }) {
  const { data: kit, error } = useQuery({
    queryKey: ['courses', course.id, 'kit', course.lessonIds.join()],
    queryFn: () => call<CourseKit>('GET', `/api/courses/${course.id}/kit`),
    placeholderData: (was) => was,
  });
  if (error) return <p role="alert">{error.message}</p>;
  if (!kit) return null;
  const whose = (of: number[]) => (of.length === count ? w.every : w.only(of.map((at) => at + 1)));
  const groups = Object.entries(shelfNames)
    .map(([shelf, name]) => ({ name, lines: kit.lines.filter((line) => line.shelf === shelf) }))
    .filter(({ lines }) => lines.length > 0);
  return (
    <section className={css.kit}>
      <h2>{w.kit}</h2>
      <p className="quiet">{w.kitAbout(kit.heads)}</p>
      {groups.map(({ name, lines }) => (
        <Table<CourseLine>
          key={name}
          size="small"
          rowKey="key"
          pagination={false}
          title={() => <h3>{name}</h3>}
          showHeader={false}
          dataSource={lines}
          columns={[
            { title: w.what, key: 'what', render: (_, line) => capital(courseLineInWords(line)) },
            ...(count > 1
              ? [
                  {
                    ...{ title: w.of, key: 'of', width: 170, className: 'quiet' },
                    render: (_: unknown, { of }: CourseLine) => whose(of),
                  },
                ]
              : []),
            {
              ...{ title: w.cost, key: 'cost', align: 'right', width: 90 },
              render: (_, { costMinor }) => (costMinor === null ? '' : moneyInWords(costMinor, kit.currency)),
            },
          ]}
        />
      ))}
      {kit.costMinor > 0 && <p>{w.costs(moneyInWords(kit.costMinor, kit.currency), kit.unpriced)}</p>}
    </section>
  );
}
