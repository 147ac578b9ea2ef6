import type { ByHand } from '@viaticum/contract';
import { readLogCsv, rowsByHand } from '@viaticum/core/log';
import { App, Button, DatePicker, Input, InputNumber } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { useNoteByHand } from '../../api/log-queries.js';
import { useLesson, usePlan, useSession } from '../../lesson/context.js';
import { FileKey } from '../../ui/file-key.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';

const w = logWords.hand;
type Row = ByHand['items'][number];
const STUDENTS = 12;

/** A class that was taught without the application: its steps with the minutes that they took, typed or from a table. */
export function ByHandForm() {
  const lesson = useLesson();
  const { minutes } = usePlan();
  const { id: lessonId } = useSession();
  const { message } = App.useApp();
  const save = useNoteByHand();
  const planned = (stepId: string): number | null => {
    const own = minutes.get(stepId);
    return own ? Math.round((own.showMin + own.doMin) * 2) / 2 : null;
  };
  const [day, setDay] = useState(() => dayjs().format('YYYY-MM-DD'));
  const [students, setStudents] = useState(STUDENTS);
  const [note, setNote] = useState('');
  const [given, setGiven] = useState<Row[] | null>(null);
  const rows = given ?? rowsByHand(lesson, planned);
  if (lesson.steps.length === 0) return <p>{w.noSteps}</p>;
  const change = (at: number, next: Partial<Row>) => setGiven(rows.map((row, k) => (k === at ? { ...row, ...next } : row)));
  const read = async (file: File) => {
    try {
      const found = readLogCsv(await file.text());
      setGiven(found.items);
      if (found.day) setDay(found.day);
    } catch (fault) {
      void message.error((fault as Error).message);
    }
  };
  const put = () => {
    if (!rows.some(({ actual }) => actual !== null)) return void message.error(w.nothing);
    save.mutate(
      { lessonId, byHand: { title: lesson.title, at: day, students, items: rows, note } },
      {
        onSuccess: () => {
          setGiven(null);
          setNote('');
          void message.success(w.saved);
        },
        onError: (fault) => void message.error(fault.message),
      },
    );
  };
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p className="quiet">{w.about}</p>
      <div className={css.asked}>
        <div className="field">
          <span>{w.date}</span>
          <DatePicker
            aria-label={w.date}
            format="D MMM YYYY"
            allowClear={false}
            value={dayjs(day)}
            onChange={(next) => next && setDay(next.format('YYYY-MM-DD'))}
          />
        </div>
        <label className="field">
          <span>{w.students}</span>
          <InputNumber min={1} max={1200} precision={0} value={students} onChange={(next) => setStudents(next ?? STUDENTS)} />
        </label>
        <FileKey label={w.read} accept=".csv,text/csv" size="middle" onFile={(file) => void read(file)} />
      </div>
      <table className={css.items}>
        <thead>
          <tr>
            {w.columns.map((column) => (
              <th key={column} scope="col">
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two steps may have one title
            <tr key={at}>
              <th scope="row">{row.title}</th>
              <td className="numbers">{row.planned === null ? '' : row.planned}</td>
              <td>
                <InputNumber
                  aria-label={w.took(row.title)}
                  min={0}
                  max={600}
                  value={row.actual}
                  onChange={(actual) => change(at, { actual })}
                />
              </td>
              <td>
                <Input
                  aria-label={w.noteOf(row.title)}
                  maxLength={500}
                  value={row.note}
                  onChange={(event) => change(at, { note: event.target.value })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <label className="field">
        <span>{w.note}</span>
        <Input.TextArea rows={2} maxLength={4000} value={note} onChange={(event) => setNote(event.target.value)} />
      </label>
      <Button type="primary" loading={save.isPending} onClick={put}>
        {w.save}
      </Button>
    </section>
  );
}
