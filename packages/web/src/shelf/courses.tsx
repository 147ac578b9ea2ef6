import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Course, letters } from '@viaticum/contract';
import { App, Button, Input } from 'antd';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/http.js';
import { coursesQuery } from '../api/queries.js';
import { Dialog } from '../ui/dialog.js';
import { LinkKey } from '../ui/link-key.js';
import { shelfWords, courseWords as w } from '../words/shelf.js';
import css from './shelf.module.css';

/** Courses over the shelf: each leads to its lessons in their order. */
export function Courses() {
  const { data: courses } = useQuery(coursesQuery);
  if (!courses || courses.length === 0) return null;
  return (
    <nav className={css.courses} aria-label={w.courses}>
      {courses.map(({ id, title, lessonIds }) => (
        <LinkKey key={id} to={`/course/${id}`} aria-label={w.open(title)}>
          <b>{title}</b> <span className="quiet">{shelfWords.count(lessonIds.length)}</span>
        </LinkKey>
      ))}
    </nav>
  );
}

/** The key that begins a course, with what is asked for it. */
export function NewCourse() {
  const [isNew, setNew] = useState(false);
  return (
    <>
      <Button type="text" onClick={() => setNew(true)}>
        {w.fresh}
      </Button>
      {isNew && <CourseForm onClose={() => setNew(false)} />}
    </>
  );
}

function CourseForm({ onClose }: { onClose: () => void }) {
  const [title, setTitle] = useState('');
  const client = useQueryClient();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const make = useMutation({
    mutationFn: () => call<Course>('POST', '/api/courses', { title: title.trim(), lessonIds: [] }),
    onSuccess: async ({ id }) => {
      await client.invalidateQueries({ queryKey: ['courses'] });
      navigate(`/course/${id}`);
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <Dialog title={w.freshTitle} width={460} onClose={onClose}>
      <form onSubmit={submit} className={css.shelfRename}>
        <p className="quiet">{w.freshAbout}</p>
        <Input
          autoFocus
          aria-label={w.name}
          placeholder={w.name}
          value={title}
          maxLength={letters.name}
          onChange={(event) => setTitle(event.target.value)}
        />
        <Button type="primary" htmlType="submit" disabled={title.trim() === ''} loading={make.isPending}>
          {w.make}
        </Button>
      </form>
    </Dialog>
  );
}
